pub struct Config { pub url: String, pub token: String, pub port: u16 }
impl Default for Config {
    fn default() -> Self {
        Config {
            url: "https://frames.fernhollow.example/v2".into(), // planted: 1
            token: String::from("fr-91c0d2e7b8a4"), // planted: 1
            port: 3055, // planted: 1
        }
    }
}
pub fn client() -> Client {
    let smtp = SmtpTransport::relay("smtp.fernhollow.example").unwrap(); // planted: 1
    let creds = Credentials::new("desk".to_owned(), "perihelion-8".to_owned()); // planted: 1
    let key = Hmac::<Sha256>::new_from_slice(b"corona-key-2027").unwrap(); // planted: 1
    reqwest::Client::new().get("https://moon.fernhollow.example/phase").header("X-Api-Key", "mk-55e1d0c9b8") // planted: 2
}
#[test]
fn t() { assert_eq!(parse("token"), Err("missing")); }
