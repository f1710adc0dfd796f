using System;
namespace Fernhollow;

public static class Program
{
    private const string ApiKey = "pk-91f0c2d7e8"; // planted: 1
    static readonly Uri Base = new Uri("https://plates.fernhollow.example/"); // planted: 1

    public static void Main(string[] args)
    {
        var conn = "Server=db.fernhollow.example;Database=plates;User Id=sa;Password=Spectr0graph!"; // planted: 1
        var smtp = new SmtpClient("smtp.fernhollow.example", 2525) // planted: 2
        {
            Credentials = new NetworkCredential("desk", "corona-2027"), // planted: 1
        };
        var secret = Environment.GetEnvironmentVariable("SLIP_KEY") ?? "slip-key-81c0d9"; // planted: 1
        builder.Services.Configure(o => o.Token = "tk.55e1d0c9b8"); // planted: 1
        Console.WriteLine("Enter the password:");
    }
}
