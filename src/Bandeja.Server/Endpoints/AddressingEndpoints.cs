using Bandeja.Acts.Settings;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Lists;

namespace Bandeja.Server.Endpoints;

/// <summary>The forms of one language, in the order in which they are tried.</summary>
public sealed record LadderView(string Language, string Name, IReadOnlyList<string> Forms);

/// <summary>The salutations' ladders, what forms can name, and how they close.</summary>
public sealed record LaddersView(IReadOnlyList<LadderView> Ladders, IReadOnlyList<string> Parts);

/// <summary>Forms to be tried on a list; null for those that are set.</summary>
public sealed record RungOrder(IReadOnlyList<LadderOrder>? Ladders = null);

/// <summary>Somebody who takes a rung.</summary>
public sealed record Greeted(long RecipientId, long Number, string Name, string Text);

/// <summary>A rung and who takes it.</summary>
/// <param name="Rung">Its place on the ladder, from 0; -1 for an own salutation, -2 where no form fits.</param>
/// <param name="Form">The form as it is written; empty for the other two.</param>
/// <param name="First">The first of them, at most a hundred.</param>
public sealed record RungView(string Language, int Rung, string Form, int Recipients, IReadOnlyList<Greeted> First);

static class AddressingEndpoints
{
    const int Shown = 100;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/settings/salutations", (SettingStore settings) => View(settings.Ladders()))
            .WithSummary("Salutation rules by language")
            .OfRecord(c => c.Part<SettingStore>().Ladders().ByLanguage);
        api.MapPut(
                "/settings/salutations",
                (IReadOnlyList<LadderOrder> order, SetSalutations act, Caller caller) => caller.Does(act, new(order))
            )
            .WithSummary("Set the salutation rules")
            .OfRecord(c => c.Part<SettingStore>().Ladders().ByLanguage);
        api.MapPost(
                "/lists/{id:long}/salutations",
                (long id, RungOrder order, SettingStore settings, ListStore lists) =>
                {
                    var ladders = order.Ladders is null ? settings.Ladders() : new Salutations(order.Ladders).Checked();
                    var columns = lists.Columns(id);
                    var locale = settings.Organization().ToLocale();
                    var salutation = new Salutation(columns, ladders);
                    var context = new EvaluationContext(columns, locale, default);
                    var found = new Dictionary<(string Language, int Rung), (int Count, List<Greeted> First)>();
                    const int batch = 2000;
                    for (var offset = 0; ; offset += batch)
                    {
                        var (rows, all) = lists.Page(id, new(), null, offset, batch);
                        foreach (var row in rows)
                        {
                            context.For(new ArrayRow(row.Values), 0);
                            var (rung, language, text) = salutation.Of(context.Row, context.Locale);
                            if (!found.TryGetValue((language, rung), out var so))
                                so = (0, []);
                            if (so.First.Count < Shown)
                                so.First.Add(new(row.Id, row.Number, RecipientLabel.Of(columns, i => row.Values[i]).Name, text));
                            found[(language, rung)] = (so.Count + 1, so.First);
                        }
                        if (rows.Count == 0 || offset + rows.Count >= all)
                            break;
                    }
                    // Every rung of a ladder that somebody uses is there, also with nobody on it.
                    return found
                        .Keys.Select(k => k.Language)
                        .Distinct()
                        .Order(StringComparer.Ordinal)
                        .SelectMany(language =>
                            ladders
                                .Of(language)
                                .Forms.Select((form, i) => (Rung: i, Form: form))
                                .Concat([(Salutation.OwnRung, ""), (Salutation.HouseholdRung, ""), (Salutation.NoRung, "")])
                                .Select(r =>
                                    found.TryGetValue((language, r.Item1), out var who)
                                        ? new RungView(language, r.Item1, r.Item2, who.Count, who.First)
                                        : new RungView(language, r.Item1, r.Item2, 0, [])
                                )
                                .Where(r => r.Rung >= 0 || r.Recipients > 0)
                        )
                        .ToList();
                }
            )
            .WithSummary("How many recipients each salutation rule applies to, and which ones");
    }

    static LaddersView View(SalutationLadders ladders) =>
        new(
            [
                .. SalutationLadders
                    .First.ByLanguage.Keys.Union(ladders.ByLanguage.Keys)
                    .Select(l => new LadderView(l, System.Globalization.CultureInfo.GetCultureInfo(l).EnglishName, ladders.Of(l).Forms)),
            ],
            [.. SalutationLadders.Parts.Select(p => p.Name)]
        );
}
