using Bandeja.Formats.Lists;

namespace Bandeja.Formats.Tests;

/// <summary>A format that somebody adds is among those that people are told of, and the other way round.</summary>
public sealed class ListFormatTests
{
    [Fact]
    public void Every_source_is_a_format_that_people_are_told_of()
    {
        var kinds = typeof(ISource)
            .Assembly.GetTypes()
            .Where(t => t is { IsClass: true, IsAbstract: false } && t.IsAssignableTo(typeof(ISource)))
            .Select(t =>
                (string)t.GetProperty("Kind")!.GetValue(System.Runtime.CompilerServices.RuntimeHelpers.GetUninitializedObject(t))!
            );
        Assert.Equal(ListFormats.All.Select(f => f.Kind).Order(), kinds.Distinct().Order());
    }

    [Fact]
    public void An_ending_belongs_to_one_format_and_is_written_as_names_are_compared()
    {
        var endings = ListFormats.All.SelectMany(f => f.Extensions).ToList();
        Assert.Equal(endings.Count, endings.Distinct().Count());
        Assert.All(endings, e => Assert.Matches(@"^\.[a-z0-9]+$", e));
    }

    [Fact]
    public void What_is_no_list_is_told_which_formats_there_are()
    {
        using var files = new Files();
        var said = Assert
            .Throws<ListFileException>(() => SourceFile.Open(files.Bytes("notes.pdf", "%PDF-1.7\n"u8.ToArray()), "notes.pdf"))
            .Message;
        foreach (var format in ListFormats.All)
            Assert.Contains(format.Name, said);
    }
}
