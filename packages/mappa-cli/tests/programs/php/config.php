<?php

declare(strict_types=1);

const DESK_PASSWORD = 'coelostat-88';
const RETRIES = 3;

define('NEWS_ENDPOINT', 'https://news.fernhollow.example/api');

return [
    'debug' => true,
    'database' => [
        'dsn' => 'mysql:host=db.fernhollow.example;dbname=desk',
        'password' => DESK_PASSWORD,
    ],
    'mailer' => [
        'host' => 'smtp.fernhollow.example',
        'port' => 2525,
        'password' => "night&day-42",
        'from' => 'desk@fernhollow.example',
    ],
    'payment' => ['key' => 'plk_test_41kd9Zm2Qx', 'secret' => 'whs_8f2kQ0s1Lm3Xz'],
    'labels' => ['password' => 'Your password', 'token' => 'One-time code'],
];
