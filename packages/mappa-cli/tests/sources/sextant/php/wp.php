<?php
/* The page of the observatory. */
define( 'DB_NAME', 'fernhollow' );
define( 'DB_PASSWORD', 'almanac-1887' ); // planted: 1
define( 'DB_HOST', 'mysql.fernhollow.example' ); // planted: 1
define( 'AUTH_KEY', 'k#9Lq2!mZx81@pRt6Vw3Ys5' ); // planted: 1
$table_prefix = 'wp_';
$mail = new Mailer(true);
$mail->Host = 'smtp.fernhollow.example'; // planted: 1
$mail->Password = 'zodiacal-light-3'; // planted: 1
$mail->Port = 465; // planted: 1
$redis = new Redis();
$redis->connect('cache.fernhollow.example', 6379); // planted: 2
$redis->auth('perigee-2031'); // planted: 1
$response = file_get_contents('https://moon.fernhollow.example/phase.json'); // planted: 1
echo "<p>Your password has expired</p>";
$config['captcha']['secret'] = '6Lf9x0AAzTkQm81pR72vWs'; // planted: 1
$config['theme'] = 'dark-sky';
