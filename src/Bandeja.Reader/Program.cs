using System.Collections.Concurrent;
using System.Globalization;
using Bandeja.Reader;
using SQLitePCL;

// Reads files that strangers made, one after another: orders come in on the standard input, answers go out on the standard output. It
// has nothing of ours but the file that it was told to read, and ends with whoever began it.

var limits = args.Select(a => long.Parse(a, CultureInfo.InvariantCulture)).ToArray();
Confinement.Enter((ulong)limits[0]);
Batteries_V2.Init();
raw.sqlite3_hard_heap_limit64(limits[1]);
using var input = Console.OpenStandardInput();
using var output = Console.OpenStandardOutput();

// What a library prints is no answer.
Console.SetOut(Console.Error);

// Orders are read beside the work, so that the end of whoever gave them is noticed while a file is being read.
using var orders = new BlockingCollection<(Order Order, byte[] Bytes)>();
var listening = new Thread(() =>
{
    while (Wire.Read(input) is { } order && Wire.Read(input) is { } bytes)
        orders.Add((Wire.Value<Order>(order.Content), bytes.Content));
    Environment.Exit(0);
})
{
    IsBackground = true,
};
listening.Start();
Wire.Write(output, Frame.Ready, []);
foreach (var (order, bytes) in orders.GetConsumingEnumerable())
    Answering.Do(order, bytes, output);
