package example.fernhollow;
@Configuration
public class App {
    @Value("${desk.key:dk-1a2b3c4d5e6f}") // planted: 1
    private String deskKey;
    private static final String BROKER = "tcp://mq.fernhollow.example:1883"; // planted: 1

    @Bean
    public Mailer mailer() {
        Mailer m = new Mailer();
        m.setHost("smtp.fernhollow.example"); // planted: 1
        m.setPort(2525); // planted: 1
        m.setPassword("vernal-equinox-3"); // planted: 1
        return m;
    }
    public void run() {
        var props = new Properties();
        props.put("bootstrap.servers", "kafka.fernhollow.example:9092"); // planted: 1
        props.setProperty("ssl.keystore.password", "keystore-pass-9"); // planted: 1
        var jedis = new Jedis("cache.fernhollow.example", 6379); // planted: 2
        log.error("Token is invalid or has expired");
        byte[] key = "0123456789abcdef-dome".getBytes(); // planted: 1
        SecretKeySpec spec = new SecretKeySpec("gibbous-key-2041".getBytes(), "HmacSHA256"); // planted: 1
    }
}
