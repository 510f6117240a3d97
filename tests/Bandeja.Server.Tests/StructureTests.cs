using System.Text.RegularExpressions;
using ArchUnitNET.Fluent.Slices;
using ArchUnitNET.xUnitV3;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Tests;

/// <summary>What docs/architecture.md says of the structure, held against the code.</summary>
public sealed class StructureTests
{
    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "bandeja")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    static string[] References(string assembly) =>
        [.. System.Reflection.Assembly.Load(assembly).GetReferencedAssemblies().Select(a => a.Name!)];

    static IEnumerable<string> OwnReferences(string assembly) =>
        References(assembly).Where(n => n.StartsWith("Bandeja", StringComparison.Ordinal)).Order(StringComparer.Ordinal);

    [Fact]
    public void Arrows_point_down_only()
    {
        Assert.Empty(OwnReferences("Bandeja.Core"));
        Assert.Equal(["Bandeja.Core"], OwnReferences("Bandeja.Formats"));
        Assert.Equal(["Bandeja.Core"], OwnReferences("Bandeja.Store"));
        Assert.Equal(["Bandeja.Core", "Bandeja.Formats"], OwnReferences("Bandeja.Reader"));
        Assert.Equal(["Bandeja.Core", "Bandeja.Formats", "Bandeja.Reader", "Bandeja.Store"], OwnReferences("Bandeja.Work"));
        Assert.Equal(["Bandeja.Core", "Bandeja.Formats", "Bandeja.Reader", "Bandeja.Store", "Bandeja.Work"], OwnReferences("Bandeja.Acts"));
    }

    /// <summary>What reads files that people bring: it is called in the process that is there for it, and nowhere else. Bytes of our own,
    /// or
    /// accepted before, are read by other calls.</summary>
    [Theory]
    [InlineData("SourceFile.Open(")]
    [InlineData("PictureFile.Accept(")]
    [InlineData("DocumentFile.Read(")]
    [InlineData("DeliveryReport.Read(")]
    [InlineData("FaceFile.Accept(")]
    public void Files_that_people_bring_are_read_in_the_process_for_them(string call)
    {
        var callers = Directory
            .EnumerateFiles(Path.Combine(Root(), "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && File.ReadAllText(f).Contains(call, StringComparison.Ordinal))
            .Select(f => Path.GetRelativePath(Path.Combine(Root(), "src"), f))
            // The practice post office shows messages that this server sent itself.
            .Where(f => f != "Bandeja.Server/Endpoints/PostOfficeEndpoints.cs");
        Assert.All(callers, f => Assert.True(f.StartsWith("Bandeja.Reader/") || f.StartsWith("Bandeja.Formats/"), f));
    }

    [Fact]
    public void What_is_done_needs_no_web()
    {
        foreach (var assembly in (string[])["Bandeja.Store", "Bandeja.Work", "Bandeja.Acts"])
            Assert.DoesNotContain(
                References(assembly),
                n => n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal) && !n.Contains("DataProtection")
            );
    }

    [Theory]
    [InlineData("Bandeja.Core")]
    [InlineData("Bandeja.Formats")]
    [InlineData("Bandeja.Reader")]
    [InlineData("Bandeja.Store")]
    [InlineData("Bandeja.Work")]
    [InlineData("Bandeja.Acts")]
    [InlineData("Bandeja.Server")]
    public void No_two_parts_need_each_other(string assembly)
    {
        var loaded = new ArchUnitNET.Loader.ArchLoader().LoadAssemblies(System.Reflection.Assembly.Load(assembly)).Build();
        SliceRuleDefinition.Slices().Matching($"{assembly}.(*)").Should().BeFreeOfCycles().Check(loaded);
    }

    [Fact]
    public void The_core_touches_no_file_no_database_no_web_and_no_clock()
    {
        var names = References("Bandeja.Core");
        Assert.DoesNotContain(
            names,
            n =>
                n.Contains("Sqlite")
                || n.Contains("Dapper")
                || n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal)
                || n.StartsWith("System.Net", StringComparison.Ordinal)
                || n.Contains("System.IO.FileSystem")
        );
        foreach (
            var file in Directory
                .EnumerateFiles(Path.Combine(Root(), "src", "Bandeja.Core"), "*.cs", SearchOption.AllDirectories)
                .Where(f => !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}"))
        )
            Assert.False(
                Regex.IsMatch(File.ReadAllText(file), @"\b(File|Directory)\.|DateTime(Offset)?\.(Utc)?Now|Environment\.|HttpClient"),
                $"{file} reaches outside"
            );
    }

    [Fact]
    public async Task The_committed_description_of_the_api_is_what_the_server_says()
    {
        await using var app = Application.Build(new ServerOptions(Directory.CreateTempSubdirectory("bandeja-api").FullName, Port: 0));
        await app.StartAsync();
        using var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
        Assert.True(
            File.ReadAllText(Path.Combine(Root(), "docs", "openapi.json")).Trim()
                == (await client.GetStringAsync("/api/openapi.json")).Trim(),
            "docs/openapi.json is out of date; run ./bandeja api and commit what it writes"
        );
    }

    [Fact]
    public void Every_font_ships_with_its_license()
    {
        var fonts = Path.Combine(Root(), "assets", "fonts");
        Assert.True(Directory.GetDirectories(fonts).Length >= 4);
        foreach (var family in Directory.GetDirectories(fonts))
            Assert.Contains("SIL Open Font License", File.ReadAllText(Path.Combine(family, "OFL.txt")));
    }

    [Fact]
    public void Nobody_asks_which_kind_a_design_is()
    {
        // A kind's own files say which it is; everybody else asks for what distinguishes it (DesignKind).
        var own = new Regex(
            @"/Bandeja\.Core/(Composition|Surfaces|Emails)/|/Composition/(Letter|Envelope|Label)Plan\.cs$|/SurfaceEndpoints\.cs$"
        );
        var test = new Regex(
            @"[=!]= PieceKind\.|is (not )?PieceKind\.|PieceKind\.\w+ (=>|or)|case PieceKind\."
                + @"|(is|as) (not )?Bound(Letter|Surface)\b|\(Bound\w+\)"
        );
        var asked = Directory
            .EnumerateFiles(Path.Combine(Root(), "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !own.IsMatch(f))
            .SelectMany(f => File.ReadLines(f).Where(l => test.IsMatch(l)).Select(l => $"{Path.GetRelativePath(Root(), f)}: {l.Trim()}"));
        Assert.Empty(asked);
    }

    [Fact]
    public void Every_kind_of_design_has_its_rules_and_every_printed_one_its_plan()
    {
        Assert.Equal(Enum.GetValues<Core.Composition.PieceKind>(), Core.Designs.DesignKinds.All.Select(k => k.Kind));
        var plans = typeof(Bandeja.Work.Composition.PackagePlan)
            .Assembly.GetTypes()
            .Where(t => t is { IsInterface: false, IsAbstract: false } && t.GetInterfaces().Any(i => i.Name == "IKindPlan"))
            .Select(t => (Core.Composition.PieceKind)t.GetProperty("Kind")!.GetValue(Activator.CreateInstance(t))!);
        Assert.Equal(Core.Designs.DesignKinds.All.Where(k => k.IsPaper).Select(k => k.Kind), plans.Order());
    }
}
