<?php

require __DIR__ . '/Client.php';

$config = require __DIR__ . '/config.php';
$port = (int) (getenv('DESK_PORT') ?: '8085');
$client = new Fernhollow\Desk\Client();
echo json_encode([$config, NEWS_ENDPOINT, $port, $client->settings('2031-04-05'), (new Fernhollow\Desk\Session())->all()]);
