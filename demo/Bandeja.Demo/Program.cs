using Bandeja.Demo;

// bandeja-demo files FOLDER            writes the demo's files, the same every time
// bandeja-demo fill DATA FOLDER        fills an empty data folder with the demo's world
switch (args)
{
    case ["files", var folder]:
        Files.Write(folder);
        return 0;
    case ["fill", var data, var folder]:
        Filling.Fill(data, folder, DateTimeOffset.Now);
        return 0;
    default:
        Console.Error.WriteLine("files FOLDER | fill DATA FOLDER");
        return 2;
}
