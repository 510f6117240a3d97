using System.IO.Pipelines;
using System.Net.Sockets;
using System.Security.Authentication;
using System.Security.Cryptography.X509Certificates;
using SmtpServer;
using SmtpServer.IO;
using SmtpServer.Net;

namespace Bandeja.Work.Mail;

/// <summary>
/// Lets connections of a listener that is open already into the practice post office. The library's own listener gathers answers into
/// larger packets, and each of them then comes 40 ms late; it also does not say which port it found.
/// </summary>
sealed class PostOfficeDoor(TcpListener listener) : IEndpointListenerFactory, IEndpointListener
{
    public IEndpointListener CreateListener(IEndpointDefinition endpointDefinition) => this;

    public async Task<ISecurableDuplexPipe> GetPipeAsync(ISessionContext context, CancellationToken cancellationToken) =>
        new Line(await listener.AcceptTcpClientAsync(cancellationToken));

    public void Dispose() => listener.Dispose();

    /// <summary>A connection within this machine, which nothing encrypts.</summary>
    sealed class Line : ISecurableDuplexPipe
    {
        readonly TcpClient client;

        public Line(TcpClient client)
        {
            this.client = client;
            client.NoDelay = true;
            (Input, Output) = (PipeReader.Create(client.GetStream()), PipeWriter.Create(client.GetStream()));
        }

        public PipeReader Input { get; }
        public PipeWriter Output { get; }
        public bool IsSecure => false;
        public SslProtocols SslProtocol => SslProtocols.None;

        public Task UpgradeAsync(X509Certificate certificate, SslProtocols protocols, CancellationToken cancellationToken = default) =>
            throw new NotSupportedException("The practice post office encrypts nothing.");

        public void Dispose() => client.Dispose();
    }
}
