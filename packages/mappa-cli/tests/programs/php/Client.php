<?php

declare(strict_types=1);

namespace Fernhollow\Desk;

const SLIP_URL = 'https://slips.fernhollow.example/print';

final class Client
{
    private const BASE = 'https://booking.fernhollow.example';
    private string $apiKey = '5ee1f0aa77c94b1d';

    public function __construct(private array $options = [])
    {
        $this->options['token'] = 'k7Qm2Zx9Lp4Rt8Vw';
    }

    public function settings(string $night): array
    {
        $secret = getenv('SLIP_SECRET') ?: 'slip-5d41402abc4b';
        $url = "https://booking.fernhollow.example/v1/nights/{$night}?key=5ee1f0aa77c94b1d&t=" . time_of($night);
        return [self::BASE, $this->apiKey, $this->options, $secret, $url, SLIP_URL, 'Authorization: Bearer upl_88xZq2Lm01'];
    }
}

abstract class Keeper
{
    protected static $dsn = 'mysql:host=db.fernhollow.example;dbname=slips';
    public string $note = "pa\$\$word\n";
}

class Session extends Keeper
{
    private const LIMIT = 5;
    public function __construct(public int $port = 6379)
    {
    }

    public $secret = 'ses-0f1e2d3c4b5a';
    protected ?string $host = "cache.fernhollow.example";

    public function all(): array
    {
        return [$this->secret, $this->host, $this->port, self::$dsn, self::LIMIT, $this->note, "host={$this->host}&k=ses-0f1e2d3c4b5a", match ($this->port) { 6379 => 'match-9', default => 'd' }];
    }
}

function time_of(string $night): string
{
    return strrev($night);
}
