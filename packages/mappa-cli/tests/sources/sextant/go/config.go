package config

import (
	"os"
	"time"
)

type Options struct {
	Addr    string
	Timeout time.Duration
}

var Default = Options{Addr: "0.0.0.0:7070", Timeout: 5 * time.Second} // planted: 1

var (
	natsURL    = "nats://nats.fernhollow.example:4222" // planted: 1
	signingKey = []byte("ring-nebula-m57-key")         // planted: 1
	version    = "1.14.0"
)

func init() {
	conf.SetDefault("smtp.host", "smtp.fernhollow.example") // planted: 1
	conf.SetDefault("smtp.port", 2525)                      // planted: 1
	conf.SetDefault("log.level", "info")
	cfg := &aws.Config{Region: aws.String("eu-hill-1"), Bucket: "fernhollow-frames"} // planted: 2
	rdb := redis.NewClient(&redis.Options{Addr: "cache.fernhollow.example:6379", Password: "libration-5"}) // planted: 2
	conn, _ := grpc.Dial("steering.fernhollow.example:50051") // planted: 1
	smtpAuth := smtp.PlainAuth("", "desk", "analemma-9", "smtp.fernhollow.example") // planted: 2
	key := getenv("STEER_KEY", "sk-44e1f0c9b8a7") // planted: 1
	_ = errors.New("missing API token")
	if os.Getenv("X") == "production" {
		use(cfg, rdb, conn, smtpAuth, key)
	}
}
