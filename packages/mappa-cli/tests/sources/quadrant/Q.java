class Q {
    String url = "jdbc:mariadb://db.fernhollow.example:3307/q?user=q&password=syzygy-19"; // planted: 1
    static final int REDIS_PORT = 6390; // planted: 1
    void go() {
        Client c = Client.builder().endpoint("https://q.fernhollow.example").apiKey("qa-77b0c1d2e3f4").build(); // planted: 2
        props.setProperty("mail.smtp.host", "smtp.fernhollow.example"); // planted: 1
        mac.init(new SecretKeySpec("tidal-lock-2033".getBytes(StandardCharsets.UTF_8), "HmacSHA256")); // planted: 1
        session.connect("ftp.fernhollow.example", 2121, "desk", "sun-dog-22"); // planted: 2
        s3.putObject("fernhollow-raw-frames", key, file);
        LOG.info("token refreshed");
    }
}
