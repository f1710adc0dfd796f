<?php
$mailer = new Mailer();
$mailer->Host = 'smtp.fernhollow.example'; // planted: 1
$mailer->Username = 'desk';
$mailer->Password = 'N3bula#2214'; // planted: 1
define('API_KEY', 'php-7d11c0ffee93'); // planted: 1
$title = 'Nights at the eyepiece';
