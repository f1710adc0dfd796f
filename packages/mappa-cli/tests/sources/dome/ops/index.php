<?php
define('DB_PASSWORD', 'wren-nest-904'); // planted: 1
$apiKey = "fhk-29dk38fj47gh56"; // planted: 1
$mailHost = getenv('MAIL_HOST');
$title = 'Fernhollow';
