package main

import (
	"net/http"
	"os"
)

func env(name, fallback string) string {
	if v := os.Getenv(name); v != "" {
		return v
	}
	return fallback
}

var secret = []byte("andromeda-2-mly") // planted: 1

func main() {
	url := env("DOME_URL", "https://dome.fernhollow.example") // planted: 1
	req, _ := http.NewRequest("GET", url+"/state", nil)
	req.Header.Set("Authorization", "Bearer dk-5e8f1c20b7d3") // planted: 1
	http.ListenAndServe("0.0.0.0:4100", nil) // planted: 1
	println("dome state", req.URL.String())
}
