using System.CommandLine;
using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Bandeja.Server;
using Bandeja.Store;
using Bandeja.Work.Hosting;
using Bandeja.Work.Reading;

var data = new Option<string>("--data")
{
    Description = "The folder of the database, the uploads, and the runs' files.",
    DefaultValueFactory = _ => "data",
};
var listen = new Option<string>("--listen")
{
    Description = "The address to listen on: only this computer's own, 127.0.0.1 or ::1.",
    DefaultValueFactory = _ => "127.0.0.1",
};
listen.Validators.Add(result =>
{
    if (result.Tokens is [var token] && ServerOptions.Objection(token.Value) is { } objection)
        result.AddError(objection);
});
var names = new Option<string[]>("--name")
{
    Description = "A host name it accepts besides this computer's own, such as a proxy's; may be given several times.",
    DefaultValueFactory = _ => [],
};
var proxies = new Option<IPAddress[]>("--proxy")
{
    Description = "The address of a proxy whose X-Forwarded-For and X-Forwarded-Proto are believed; may be given several times.",
    CustomParser = result =>
    {
        var parsed = result.Tokens.Select(t => IPAddress.TryParse(t.Value, out var address) ? address : null).ToArray();
        if (parsed.Contains(null))
            result.AddError("A proxy is named by its IP address, such as 127.0.0.1.");
        return [.. parsed.OfType<IPAddress>()];
    },
};
var certificate = new Option<FileInfo?>("--certificate") { Description = "A certificate to speak TLS with, as a PEM file." };
var key = new Option<FileInfo?>("--certificate-key")
{
    Description = "The certificate's key, as a PEM file, where it is not in the same one.",
};
var privateMail = new Option<bool>("--private-mail")
{
    Description = "Lets mail accounts name servers of the private network, such as a mail server in the same office.",
};
var port = new Option<int>("--port") { Description = "The port to listen on; 0 for any free one.", DefaultValueFactory = _ => 5280 };
var web = new Option<string?>("--web") { Description = "The folder of the built web application; without it, only the API is served." };
var smtpPort = new Option<int>("--smtp-port") { Description = "The port of the practice post office; 0 for any free one." };
var nameServer = new Option<IPEndPoint?>("--name-server")
{
    Description = "The name server that the test of an email account asks: ADDRESS or ADDRESS:PORT.",
    CustomParser = result =>
    {
        if (!IPEndPoint.TryParse(result.Tokens[0].Value, out var place))
            result.AddError("The name server must be an address such as 192.0.2.53, with a port if it is not 53: 192.0.2.53:5353.");
        else if (place.Port == 0)
            place.Port = 53;
        return place;
    },
};
foreach (var option in (Option<int>[])[port, smtpPort])
    option.Validators.Add(result =>
    {
        if (result.Tokens is [var token] && !(int.TryParse(token.Value, out var number) && number is >= 0 and <= 65535))
            result.AddError($"{option.Name} must be a number from 0 to 65535.");
    });

var root = new RootCommand("Serves Bandeja.")
{
    data,
    listen,
    names,
    proxies,
    privateMail,
    certificate,
    key,
    port,
    web,
    smtpPort,
    nameServer,
};
root.SetAction(
    (parsed, cancel) =>
        Serve(
            new(
                Path.GetFullPath(parsed.GetValue(data)!),
                parsed.GetValue(listen)!,
                parsed.GetValue(port),
                parsed.GetValue(web),
                parsed.GetValue(smtpPort),
                parsed.GetValue(nameServer)
            )
            {
                Names = parsed.GetValue(names)!,
                PrivateMail = parsed.GetValue(privateMail),
                Proxies = parsed.GetValue(proxies) ?? [],
            },
            parsed.GetValue(certificate),
            parsed.GetValue(key)
        )
);
var openApi = new Command("openapi", "Prints the description of the API.");
openApi.SetAction((_, _) => Describe());
root.Subcommands.Add(openApi);

// The host ends the server when it is told to, and takes the time that it needs.
return await root.Parse(args).InvokeAsync(new() { ProcessTerminationTimeout = null });

static async Task<int> Serve(ServerOptions options, FileInfo? certificate, FileInfo? key)
{
    if (certificate is not null)
        try
        {
            // Read once more as PKCS #12: that is the form in which the key is at hand for TLS on every system.
            using var pem = X509Certificate2.CreateFromPemFile(certificate.FullName, key?.FullName);
            options = options with { Certificate = X509CertificateLoader.LoadPkcs12(pem.Export(X509ContentType.Pkcs12), null) };
        }
        catch (Exception e) when (e is CryptographicException or IOException or UnauthorizedAccessException)
        {
            return Refused(new(StartFault.Certificate, $"The certificate “{certificate.FullName}” cannot be used: {e.Message}"));
        }
    WebApplication built;
    try
    {
        built = Application.Build(options);
    }
    catch (StartException e)
    {
        return Refused(e);
    }
    catch (DatabaseFileException e)
    {
        return Refused(new(Enum.Parse<StartFault>(e.Fault.ToString()), e.Message));
    }
    catch (Exception e) when (e is UnauthorizedAccessException or IOException)
    {
        return Refused(
            new(StartFault.Folder, $"The data folder “{options.Data}” cannot be used: {e.Message} Choose another: --data FOLDER")
        );
    }
    await using var app = built;
    try
    {
        await app.StartAsync();
    }
    catch (IOException e) when (e.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException)
    {
        // What works in the background had begun before the port was asked for: it ends before the database is closed under it.
        await app.StopAsync();
        return Refused(new(StartFault.Port, $"Port {options.Port} is used by another program. Choose another: --port {options.Port + 1}"));
    }
    Console.WriteLine($"Bandeja is at {app.Urls.First()}");
    _ = Task.Run(ReaderPool.Shared.Warm);
    await app.WaitForShutdownAsync();
    return 0;
}

static int Refused(StartException why)
{
    Console.Error.WriteLine(why.Message);
    return (int)why.Fault;
}

static async Task<int> Describe()
{
    var folder = Directory.CreateTempSubdirectory("bandeja-openapi");
    await using var quiet = Application.Build(new(folder.FullName, Port: 0));
    await quiet.StartAsync();
    using var client = new HttpClient();
    Console.WriteLine(await client.GetStringAsync(new Uri(new Uri(quiet.Urls.First()), "/api/openapi.json")));
    return 0;
}
