public class Startup
{
    public void Configure(IServiceCollection services)
    {
        services.AddDbContext<Desk>(o => o.UseSqlServer("Data Source=db.fernhollow.example;Initial Catalog=desk;User ID=sa;Password=Parallax#77")); // planted: 1
        services.AddHttpClient("plates", c => c.BaseAddress = new Uri("https://plates.fernhollow.example/")); // planted: 1
        var key = Encoding.UTF8.GetBytes("umbra-signing-key-2031"); // planted: 1
        services.AddStackExchangeRedis(o => o.Configuration = "cache.fernhollow.example:6379,password=penumbra-6"); // planted: 1
        var client = new ServiceBusClient("Endpoint=sb://bus.fernhollow.example/;SharedAccessKeyName=root;SharedAccessKey=9vK2mLq8Zp1Rt6Vw3Ys5Nb="); // planted: 1
        throw new ArgumentException("Password must contain a digit");
    }
    private readonly string _webhookSecret = "whs_5f4e3d2c1b0a"; // planted: 1
}
