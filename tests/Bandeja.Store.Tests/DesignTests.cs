using Bandeja.Store.Designs;
using Bandeja.Store.Editing;

namespace Bandeja.Store.Tests;

/// <summary>The library of designs: what is said about them, which columns their names stand for, their pictures.</summary>
public sealed class DesignTests : IDisposable
{
    readonly World world = new();

    public void Dispose() => world.Dispose();

    DesignStore Designs => new(world.Database);
    ColumnStore Columns => new(world.Database, world.Editor);

    IReadOnlyList<DesignMatch> Matches(long design, long list)
    {
        using var c = world.Database.Open();
        return DesignMatches.Of(c, design, list);
    }

    long Letter(string text) =>
        Designs.Create(
            "Notice",
            world.List,
            $$"""{"content":[{"type":"paragraph","content":[{"type":"text","text":"{{text}}"}]}]}""",
            world.By()
        );

    [Fact]
    public void What_is_said_about_a_design_changes_piece_by_piece()
    {
        Designs.Change(world.Design, description: "For the spring", tagsJson: """["spring"]""");
        Designs.Change(world.Design, archived: true);
        var row = Designs.Get(world.Design);
        Assert.Equal(("Letter", "For the spring", """["spring"]""", true), (row.Name, row.Description, row.TagsJson, row.Archived));
        Assert.Throws<NotFoundException>(() => Designs.Change(999, name: "x"));
    }

    [Fact]
    public void A_duplicate_has_the_text_and_the_matches_and_a_life_of_its_own()
    {
        var letter = Letter("Dear {Name}");
        Designs.Match(letter, world.List, "Name", 1, "hand");
        var copy = Designs.Duplicate(letter, "Copy", world.By("Tom"));
        Assert.Equal(Designs.Newest(letter).DocumentJson, Designs.Newest(copy).DocumentJson);
        Assert.Equal("Name", Assert.Single(Matches(copy, world.List)).Name);
        Designs.Save(copy, 1, 1, """{"content":[]}""", world.By("Tom"));
        Assert.Contains("Dear", Designs.Newest(letter).DocumentJson);
    }

    [Fact]
    public void A_match_is_remembered_for_its_pair_changed_and_forgotten()
    {
        Designs.Match(world.Design, world.List, "Name", 1, "hand");
        Designs.Match(world.Design, world.List, "name", 2, "hand");
        Assert.Equal((2, "hand"), (Assert.Single(Matches(world.Design, world.List)).ColumnId, Matches(world.Design, world.List)[0].How));
        using (var c = world.Database.Open())
        {
            Assert.Equal(1, DesignMatches.Positions(c, world.Design, world.List, World.Columns)["NAME"]);
            Assert.Empty(DesignMatches.Positions(c, world.Design + 1, world.List, World.Columns));
        }
        Designs.Match(world.Design, world.List, "Name", null, "hand");
        Assert.Empty(Matches(world.Design, world.List));
        Assert.Throws<NotFoundException>(() => Designs.Match(world.Design, world.List, "Name", 77, "hand"));
    }

    [Fact]
    public void Renaming_a_column_leaves_word_in_the_letters_that_name_it_and_in_no_others()
    {
        var (naming, other) = (Letter("Dear {First}, {City}"), Letter("To {Last}"));
        Columns.Change(world.List, 1, new(Name: "Given name"), world.By());
        Assert.Equal(
            ("First", 1L, "renamed"),
            (Matches(naming, world.List)[0].Name, Matches(naming, world.List)[0].ColumnId, Matches(naming, world.List)[0].How)
        );
        Assert.Empty(Matches(other, world.List));
        // Another column takes the name: the letter goes on meaning the first.
        Columns.Change(world.List, 2, new(Name: "First"), world.By());
        Assert.Equal(1, Matches(naming, world.List).Single(m => m.Name == "First").ColumnId);
        Assert.Equal(2, Matches(other, world.List).Single(m => m.Name == "Last").ColumnId);
    }

    [Fact]
    public void A_match_that_was_picked_is_not_overwritten_by_a_renaming()
    {
        var letter = Letter("{City}");
        Designs.Match(letter, world.List, "City", 2, "hand");
        Columns.Change(world.List, 4, new(Name: "Town"), world.By());
        Assert.Equal((2, "hand"), (Matches(letter, world.List)[0].ColumnId, Matches(letter, world.List)[0].How));
    }

    [Fact]
    public void A_picture_is_found_by_any_of_its_names_the_newest_first()
    {
        PictureRow Picture(string id, string name) =>
            new()
            {
                Id = id,
                Name = name,
                MediaType = "image/png",
                Width = 1,
                Height = 1,
                Size = 1,
            };
        Designs.AddPicture(Picture("a", "Ana.png"), world.By());
        Designs.AddPicture(Picture("a", "per.jpg"), world.By());
        world.Now = world.Now.AddMinutes(1);
        Designs.AddPicture(Picture("b", "ana.png"), world.By());
        Assert.Equal(
            ("b", "a", "a"),
            (Designs.PictureNamed("ANA")!.Id, Designs.PictureNamed("per")!.Id, Designs.PictureNamed("Per.jpg")!.Id)
        );
        Assert.Null(Designs.PictureNamed("nobody"));
        Assert.Equal(2, Designs.Pictures().Count);
    }

    [Fact]
    public void What_a_name_meant_before_is_still_known_and_a_clock_that_is_set_back_does_not_hide_the_newest()
    {
        PictureRow Picture(string id) =>
            new()
            {
                Id = id,
                Name = "ana.png",
                MediaType = "image/png",
                Width = 1,
                Height = 1,
                Size = 1,
            };
        long Naming()
        {
            using var c = world.Database.Open();
            return DesignStore.NewestNaming(c);
        }
        Designs.AddPicture(Picture("a"), world.By());
        var (before, mark) = (Naming(), Designs.PicturesMark());
        world.Now = world.Now.AddDays(-1);
        Designs.AddPicture(Picture("b"), world.By());
        Assert.Equal(("b", "a"), (Designs.PictureNamed("ana")!.Id, Designs.PictureNamed("ana", before)!.Id));
        var second = Designs.PicturesMark();
        Assert.NotEqual(mark, second);
        // Back to the first picture is a third state and not the first again: what was looked at in between was another one.
        Designs.AddPicture(Picture("a"), world.By());
        Assert.NotEqual(mark, Designs.PicturesMark());
        // The same once more changes nothing.
        var third = Designs.PicturesMark();
        Designs.AddPicture(Picture("a"), world.By());
        Assert.Equal((third, "a"), (Designs.PicturesMark(), Designs.PictureNamed("ana")!.Id));
    }

    [Fact]
    public void Saving_anyway_keeps_both_versions()
    {
        Designs.Save(world.Design, 1, 1, """{"content":[],"maxPages":1}""", world.By("Tom"));
        Assert.Throws<StaleException>(() => Designs.Save(world.Design, 1, 1, """{"content":[],"maxPages":2}""", world.By()));
        Designs.Save(world.Design, 1, 1, """{"content":[],"maxPages":2}""", world.By(), beside: true);
        Assert.Equal(
            ["""{"content":[],"maxPages":2}""", """{"content":[],"maxPages":1}""", World.Document],
            Designs.Versions(world.Design).Select(v => v.DocumentJson)
        );
    }

    [Fact]
    public void A_produced_version_never_changes_underneath()
    {
        var run = world.Produce();
        Designs.Save(world.Design, 1, 1, """{"content":[],"maxPages":3}""", world.By());
        using var c = world.Database.Open();
        Assert.Equal(World.Document, DesignStore.Version(c, run.Designs[0].DesignVersionId).DocumentJson);
        Assert.Throws<Microsoft.Data.Sqlite.SqliteException>(() =>
            world.Database.Write(w =>
                Dapper.SqlMapper.Execute(w, "UPDATE design_version SET document_json = 'x' WHERE id = @DesignVersionId", run.Designs[0])
            )
        );
    }
}
