package main

import (
	"database/sql"
	"net/http"
)

const apiToken = "fh_tok_83ba91c07de4" // planted: 1

var controllerAddr = "192.168.7.20:4200" // planted: 1

func main() {
	db, _ := sql.Open("mysql", "guide:Tr4nsit@tcp(db.fernhollow.example:3306)/observatory") // planted: 1
	defer db.Close()
	http.ListenAndServe(":8090", nil) // planted: 1
}
