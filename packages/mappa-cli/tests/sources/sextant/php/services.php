<?php
return [
    'maps' => ['key' => env('MAPS_KEY', 'mk_77aa01bc9d')], // planted: 1
    'mail' => [
        'transport' => 'smtp',
        'from' => ['address' => 'desk@fernhollow.example', 'name' => 'Night desk'], // planted: 1
    ],
    'queue' => ['connection' => 'redis', 'queue' => 'night-bookings', 'region' => 'eu-hill-1'], // planted: 2
    'payments' => ['webhook' => ['secret' => 'whsec_0a9b8c7d6e5f4a3b', 'tolerance' => 300]], // planted: 1
    'validation' => ['password' => 'required|min:12', 'token' => 'required|string'],
];
