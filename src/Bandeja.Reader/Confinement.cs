using System.Runtime.InteropServices;

namespace Bandeja.Reader;

/// <summary>What a reader gives up before it reads its first byte (getrlimit(2), Linux); the system holds it to that.</summary>
static partial class Confinement
{
    const int Data = 2,
        Core = 4;

    [StructLayout(LayoutKind.Sequential)]
    struct Limit
    {
        public ulong Soft,
            Hard;
    }

    [LibraryImport("libc", EntryPoint = "setrlimit", SetLastError = true)]
    private static partial int SetLimit(int resource, in Limit limit);

    /// <summary>Limits memory of every kind, and leaves no image of its memory behind where it ends badly.</summary>
    /// <param name="memory">Bytes.</param>
    public static void Enter(ulong memory)
    {
        if (!OperatingSystem.IsLinux())
            return;
        Set(Data, memory);
        Set(Core, 0);
    }

    static void Set(int resource, ulong most)
    {
        if (SetLimit(resource, new() { Soft = most, Hard = most }) != 0)
            throw new InvalidOperationException($"The limit {resource} could not be set: error {Marshal.GetLastPInvokeError()}.");
    }
}
