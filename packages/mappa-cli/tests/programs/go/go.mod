module fernhollow.example/dome

go 1.19
