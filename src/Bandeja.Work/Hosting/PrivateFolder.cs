using System.Runtime.InteropServices;

namespace Bandeja.Work.Hosting;

/// <summary>The data folder is for the one who runs the server: it holds people's addresses, and the keys to the passwords.</summary>
public static class PrivateFolder
{
    const UnixFileMode Folder = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
    const UnixFileMode File = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    /// <summary>Creates the folder where it is missing, and sees to it that nobody else reads what lies in it or is written there
    /// later: folders 0700, files 0600 (POSIX, umask and chmod).</summary>
    public static void Make(string path)
    {
        if (!OperatingSystem.IsLinux() && !OperatingSystem.IsMacOS())
            return;
        SetMask(Convert.ToUInt32("077", 8));
        var folder = Directory.CreateDirectory(path, Folder);
        folder.UnixFileMode = Folder;
        var all = new EnumerationOptions { RecurseSubdirectories = true, AttributesToSkip = FileAttributes.ReparsePoint };
        foreach (var entry in folder.EnumerateFileSystemInfos("*", all))
            if (entry.UnixFileMode is var mode && mode != (entry is DirectoryInfo ? Folder : File))
                entry.UnixFileMode = entry is DirectoryInfo ? Folder : File;
    }

    [DllImport("libc", EntryPoint = "umask")]
    static extern uint SetMask(uint mask);
}
