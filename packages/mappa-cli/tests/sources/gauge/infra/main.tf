terraform {
  required_version = ">= 1.5"
}

provider "weather" {
  endpoint = "https://weather.fernhollow.example/v2" # planted: 1
  token    = "wth_8sK2mQ9xV4bN7tR1cY5z" # planted: 1
}

variable "db_password" {
  description = "Password of the sky database"
  type        = string
  default     = "fog-7Kq2x9Wm4t" # planted: 1
}

variable "region" {
  default = "north-hollow-1" # planted: 1
}

resource "sky_database" "nights" {
  name     = "nights"
  username = "fern"
  password = var.db_password
  tags     = { team = "dome" }
}

output "address" {
  value = sky_database.nights.address
}
