using System.Net;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace Bandeja.Server.Tests;

/// <summary>A certificate of 127.0.0.1 that this process trusts, as a machine trusts those of its certificate authorities: encrypted
/// lines are tried as they are used, without a way around their checks.</summary>
static class TrustedCertificate
{
    public static X509Certificate2 Own { get; } = Create("CN=127.0.0.1");

    /// <summary>A certificate that nobody trusts.</summary>
    public static X509Certificate2 Create(string name)
    {
        using var key = RSA.Create(2048);
        var request = new CertificateRequest(name, key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        var names = new SubjectAlternativeNameBuilder();
        names.AddIpAddress(IPAddress.Loopback);
        request.CertificateExtensions.Add(names.Build());
        using var made = request.CreateSelfSigned(DateTimeOffset.Now.AddDays(-1), DateTimeOffset.Now.AddDays(30));
        return X509CertificateLoader.LoadPkcs12(made.Export(X509ContentType.Pfx), null);
    }

    // The runtime reads its roots once, from where OpenSSL has them (SSL_CERT_FILE, SSL_CERT_DIR): before any test.
    [ModuleInitializer]
    internal static void Trust()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-roots").FullName;
        var file = Path.Combine(folder, "roots.pem");
        File.WriteAllText(file, Own.ExportCertificatePem());
        SetEnvironment("SSL_CERT_FILE", file, 1);
        SetEnvironment("SSL_CERT_DIR", folder, 1);
    }

    [DllImport("libc", EntryPoint = "setenv")]
    static extern int SetEnvironment(
        [MarshalAs(UnmanagedType.LPUTF8Str)] string name,
        [MarshalAs(UnmanagedType.LPUTF8Str)] string value,
        int overwrite
    );
}
