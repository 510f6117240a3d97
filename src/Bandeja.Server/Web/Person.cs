using System.Globalization;
using System.Text;
using Bandeja.Store;

namespace Bandeja.Server.Web;

/// <summary>Who makes a request: the name that a browser was told once, sent percent-encoded in the header <c>X-Person</c>. It stands in
/// logs and is no proof of identity.</summary>
static class Person
{
    // Signs that cannot be seen, and other forms of the same letters, do not make it another name.
    static bool IsSystem(string name) =>
        !name.Any(char.IsSurrogate)
        && string.Concat(name.Normalize(NormalizationForm.FormKC).Where(c => char.GetUnicodeCategory(c) != UnicodeCategory.Format))
            .Trim()
            .Equals(Store.Actor.System, StringComparison.OrdinalIgnoreCase);

    public static Actor Actor(this HttpContext context)
    {
        var name = Uri.UnescapeDataString(context.Request.Headers["X-Person"].ToString()).Trim();
        name = new string([.. name.Where(c => !char.IsControl(c)).Take(80)]);
        if (IsSystem(name))
            throw new BadInputException($"In the log, “{Store.Actor.System}” means the program itself. Enter another name.");
        return Store.Actor.Person(
            name.Length == 0 ? Store.Actor.Unnamed : name,
            context.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow()
        );
    }
}
