using System.Globalization;
using System.Text;
using Bandeja.Store;

namespace Bandeja.Server.Web;

/// <summary>Who makes a request: the name that a browser was told once, sent percent-encoded in the header <c>X-Person</c>. It stands in
/// logs and is no proof of identity.</summary>
static class Person
{
    static IEnumerable<char> Seen(string name) =>
        (name.All(c => !char.IsSurrogate(c)) ? name.Normalize(NormalizationForm.FormKC) : name).Where(c =>
            !char.IsControl(c) && char.GetUnicodeCategory(c) != UnicodeCategory.Format
        );

    public static Actor Actor(this HttpContext context)
    {
        var name = Uri.UnescapeDataString(context.Request.Headers["X-Person"].ToString()).Trim();
        // What cannot be seen is no part of a name: it would only make one look like another's.
        name = new string([.. Seen(name).Take(80)]).Trim();
        if (name.Equals(Store.Actor.System, StringComparison.OrdinalIgnoreCase))
            throw new BadInputException(
                $"“{Store.Actor.System}” stands in the log for what the program does by itself. Enter another name."
            );
        return Store.Actor.Person(
            name.Length == 0 ? Store.Actor.Unnamed : name,
            context.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow()
        );
    }
}
