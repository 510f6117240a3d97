using System.Buffers.Binary;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace Bandeja.Server.Tests;

/// <summary>A name server on the loopback that knows a few TXT records (RFC 1035) and nothing else.</summary>
public sealed class NameServer : IDisposable
{
    readonly UdpClient socket = new(new IPEndPoint(IPAddress.Loopback, 0));

    /// <summary>What is known: names in lower case. A name is there when it or one below it has a record.</summary>
    public Dictionary<string, string[]> Texts { get; } = [];

    /// <summary>True where every question is answered with a failure of the server.</summary>
    public bool Fails { get; set; }

    public NameServer() => _ = Task.Run(Answer);

    public IPEndPoint Place => (IPEndPoint)socket.Client.LocalEndPoint!;

    public void Dispose() => socket.Dispose();

    async Task Answer()
    {
        while (true)
        {
            UdpReceiveResult asked;
            try
            {
                asked = await socket.ReceiveAsync();
            }
            catch (Exception e) when (e is ObjectDisposedException or SocketException)
            {
                return;
            }
            var question = asked.Buffer;
            var (labels, at) = (new List<string>(), 12);
            for (; question[at] != 0; at += question[at] + 1)
                labels.Add(Encoding.ASCII.GetString(question, at + 1, question[at]));
            at += 5;
            var name = string.Join('.', labels).ToLowerInvariant();
            string[] texts;
            bool exists;
            lock (Texts)
            {
                texts = Texts.GetValueOrDefault(name, []);
                exists = Texts.Keys.Any(k => k == name || k.EndsWith($".{name}", StringComparison.Ordinal));
            }
            using var answer = new MemoryStream();
            var head = new byte[12];
            question.AsSpan(0, 2).CopyTo(head);
            head[2] = 0x81;
            head[3] = (byte)(
                0x80
                | (
                    Fails ? 2
                    : exists ? 0
                    : 3
                )
            );
            head[5] = 1;
            head[7] = (byte)(Fails ? 0 : texts.Length);
            answer.Write(head);
            answer.Write(question.AsSpan(12, at - 12));
            if (!Fails)
                foreach (var text in texts)
                {
                    // Strings hold 255 bytes at most; longer texts are several, to be joined without a space (RFC 7208, section 3.3).
                    var strings = text.Chunk(100).SelectMany(c => new[] { (byte)c.Length }.Concat(Encoding.ASCII.GetBytes(c))).ToArray();
                    answer.Write([0xC0, 12, 0, 16, 0, 1, 0, 0, 0, 1]);
                    var length = new byte[2];
                    BinaryPrimitives.WriteUInt16BigEndian(length, (ushort)strings.Length);
                    answer.Write(length);
                    answer.Write(strings);
                }
            await socket.SendAsync(answer.ToArray(), asked.RemoteEndPoint);
        }
    }
}
