<?php
return [
    'default' => 'mysql',
    'connections' => [
        'mysql' => [
            'host' => env('DB_HOST', '10.4.0.9'), // planted: 1
            'port' => env('DB_PORT', '3306'), // planted: 1
            'password' => env('DB_PASSWORD', 'Alphard-is-alone-1'), // planted: 1
            'charset' => 'utf8mb4',
        ],
    ],
    'mail' => ['key' => 'mg-4c81e0b97d23fa65'], // planted: 1
];
