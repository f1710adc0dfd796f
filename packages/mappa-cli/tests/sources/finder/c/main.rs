const API_KEY: &str = "rs-09ab41c7d2ef"; // planted: 1

fn main() {
    let url = "https://dome.fernhollow.example/state"; // planted: 1
    let listener = std::net::TcpListener::bind("127.0.0.1:7878").unwrap(); // planted: 1
    println!("listening on {:?} for {}", listener.local_addr(), url);
}
