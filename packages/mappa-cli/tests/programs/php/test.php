<?php

ob_start();
require __DIR__ . '/report.php';
$digest = substr(hash('sha256', ob_get_clean()), 0, 16);
if ($digest !== '7631f19c14bbd195') {
    fwrite(STDERR, "the report is another one: $digest\n");
    exit(1);
}
if (!is_int($config['mailer']['port']) || !is_int($port)) {
    fwrite(STDERR, "a port is no number\n");
    exit(1);
}
echo "\nOK\n";
