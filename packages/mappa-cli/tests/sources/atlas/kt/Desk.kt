package example.fernhollow

object Desk {
    const val BASE_URL = "https://desk.fernhollow.example/api/" // planted: 1
    private const val API_KEY = "dk-c3b2a19087" // planted: 1
    val secret = System.getenv("DESK_SECRET") ?: "ds-5f4e3d2c1b" // planted: 1

    fun client() = HttpClient {
        install(Auth) { basic { credentials { BasicAuthCredentials(username = "desk", password = "umbra-2031") } } } // planted: 1
        defaultRequest { header("X-Api-Key", "xk-77c1b0a9d8") } // planted: 1
    }
    fun main() { embeddedServer(Netty, port = 8095) { } .start() } // planted: 1
    val label = "Password"
}
