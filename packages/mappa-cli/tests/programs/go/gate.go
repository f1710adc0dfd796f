package main

import "fmt"

const gateHost = "gate.fernhollow.example"
const gatePort = 7443

var gateToken string = "gt-42c1f09b7d33"

func gate() string {
	return fmt.Sprintf("%s:%d %s %s", gateHost, gatePort, gateToken, "https://audit.fernhollow.example/log?token=gt-42c1f09b7d33")
}
