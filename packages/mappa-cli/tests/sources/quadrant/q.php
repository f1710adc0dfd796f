<?php
$db = new mysqli('db.fernhollow.example', 'q', 'caliban-7-q', 'q'); // planted: 2
$c = ['base_uri' => 'https://q.fernhollow.example/v6', 'auth' => ['desk', 'sycorax-8']]; // planted: 2
putenv('Q_KEY=qp-33aa44bb55'); // planted: 1
$x = $_SERVER['Q_HOST'] ?? 'host.fernhollow.example'; // planted: 1
setcookie('token', $v);
