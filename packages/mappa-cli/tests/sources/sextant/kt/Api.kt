class Api(private val baseUrl: String = "https://api.fernhollow.example/v4/") { // planted: 1
    companion object { const val MAPS_KEY = "mk_live_81Zx2Lq0Tm" } // planted: 1
    val retrofit = Retrofit.Builder().baseUrl("https://night.fernhollow.example/").build() // planted: 1
    fun db() = Database.connect("jdbc:postgresql://localhost:5432/desk", user = "desk", password = "solstice-21") // planted: 2
    val hint = "Type your password"
}
