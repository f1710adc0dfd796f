<?php

declare(strict_types=1);

const DB_PASS = 'coelostat-88'; // planted: 1

define('NEWS_ENDPOINT', 'https://news.fernhollow.example/api'); // planted: 1

return [
    'debug' => true,
    'database' => [
        'dsn' => 'mysql:host=db.fernhollow.example;dbname=desk', // planted: 1
        'user' => 'desk',
        'password' => DB_PASS,
    ],
    'mailer' => [
        'host' => 'smtp.fernhollow.example', // planted: 1
        'port' => 2525, // planted: 1
        'username' => 'desk',
        'password' => "night&day-42", // planted: 1
        'from' => 'desk@fernhollow.example', // planted: 1
    ],
    'payment' => ['key' => 'plk_test_41kd9Zm2Qx', 'secret' => 'whs_8f2kQ0s1Lm3Xz'], // planted: 2
    'labels' => ['password' => 'Your password', 'token' => 'One-time code'],
];
