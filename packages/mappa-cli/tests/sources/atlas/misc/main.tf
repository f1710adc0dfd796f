provider "hill" {
  region     = "eu-hill-1" # planted: 1
  access_key = "FHAK4ZQ81LMX09PKTR22" # planted: 1
  secret_key = "x9K2m4Lq8Zp1Rt6Vw3Ys5Nb7Hc0Jd2Fg4Kl6Mo8P" # planted: 1
}
resource "hill_db" "plates" {
  password = "transit-of-2117" # planted: 1
  username = "plates"
}
