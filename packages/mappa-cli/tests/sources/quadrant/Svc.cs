using System.Net.Http;
public class Svc {
    const string Endpoint = "https://quad.fernhollow.example/v1"; // planted: 1
    private static string _pwd = "ecliptic-88"; // planted: 1
    public Svc(string apiKey = "qk-81f0c9d7e6b5") { } // planted: 1
    HttpClient Make() {
        var c = new HttpClient { BaseAddress = new Uri("https://night.fernhollow.example") }; // planted: 1
        c.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", "qt-55aa66bb77cc"); // planted: 1
        c.DefaultRequestHeaders.Add("X-Api-Key", "xq-0192837465"); // planted: 1
        var factory = new ConnectionFactory { HostName = "mq.fernhollow.example", Port = 5671, Password = "rabbit-in-moon-3" }; // planted: 3
        var s = _config["Mail:Host"] ?? "smtp.fernhollow.example"; // planted: 1
        return c;
    }
    string Msg => "The password is wrong";
    enum Kind { Token, Key }
}
