package store

type Config struct {
	Host     string
	Password string
}

var Default = Config{
	Host:     "redis.fernhollow.example:6379", // planted: 1
	Password: "Sadalsuud+2", // planted: 1
}

const grpcPort = ":50051" // planted: 1

const query = "SELECT id, places FROM nights WHERE day = $1"
