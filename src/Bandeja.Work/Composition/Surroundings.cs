using System.Collections.Concurrent;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Store;
using Bandeja.Store.Lists;

namespace Bandeja.Work.Composition;

/// <summary>What lists depend on beside their data: the organization's locale, the day, and what the typefaces can print.</summary>
public sealed class Surroundings(SettingStore settings, FontLibrary fonts, TimeProvider time)
{
    readonly ConcurrentDictionary<int, bool> known = [];

    /// <summary>As they are now.</summary>
    public ListSurroundings Now => new(settings.Organization().ToLocale(), DateOnly.FromDateTime(time.GetLocalNow().DateTime), HasGlyph);

    bool HasGlyph(Rune rune) => known.GetOrAdd(rune.Value, value => fonts.Prints(new Rune(value)));
}
