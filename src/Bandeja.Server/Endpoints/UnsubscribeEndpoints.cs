using System.Net;
using Bandeja.Acts;
using Bandeja.Acts.Mail;
using Bandeja.Store;
using Bandeja.Store.Runs;

namespace Bandeja.Server.Endpoints;

/// <summary>The one page that recipients see: it ends further mail. It needs no script, no sign-in and no cookie (RFC 8058, section
/// 3.2).</summary>
static class UnsubscribeEndpoints
{
    public static void Map(WebApplication app)
    {
        app.MapGet(
                "/unsubscribe/{token}",
                (string token, RunMails mails, SettingStore settings) =>
                    Page(
                        settings,
                        token switch
                        {
                            // Only looking changes nothing: programs follow links to see where they lead.
                            "test" => (
                                "This was a test",
                                "The link in a test ends nothing. In the real message it leads to a page like this one, with a "
                                    + "button that ends further mail.",
                                null,
                                200
                            ),
                            _ when mails.OfToken(token) is { } owner => (
                                $"Unsubscribe {owner.Address}?",
                                $"You received “{owner.CampaignName}” by email. Click the button below to stop receiving email from us.",
                                token,
                                200
                            ),
                            _ => Unknown,
                        }
                    )
            )
            .ExcludeFromDescription();

        app.MapPost(
                "/unsubscribe/{token}",
                (string token, SettingStore settings, EndMail act, Performer performer, TimeProvider time) =>
                    performer.Perform(act, new(token), Actor.Person("Recipient", time.GetUtcNow())) is { } owner
                        ? Page(
                            settings,
                            (
                                "You are unsubscribed",
                                $"We will send no further email to {owner.Address}. If this " + "was a mistake, please write or call us.",
                                null,
                                200
                            )
                        )
                        : Page(settings, Unknown)
            )
            .DisableAntiforgery()
            .ExcludeFromDescription();
    }

    static readonly (string, string, string?, int) Unknown = (
        "This link does not work",
        "The link may be incomplete. Please write to us, and we will unsubscribe you.",
        null,
        404
    );

    static IResult Page(SettingStore settings, (string Title, string Text, string? Token, int Status) page)
    {
        var organization = settings.Organization();
        var sender = $"{organization.Name}\n{organization.PostalAddress}".Trim();
        static string E(string text) => WebUtility.HtmlEncode(text);
        var form = page.Token is { } token
            ? $"<form method=\"post\" action=\"/unsubscribe/{E(token)}\"><button>Unsubscribe</button></form>"
            : "";
        return Results.Content(
            $$"""
            <!DOCTYPE html>
            <html lang="en">
            <head>
            <meta charset="utf-8">
            <meta name="viewport" content="width=device-width, initial-scale=1">
            <meta name="robots" content="noindex">
            <title>{{E(page.Title)}}</title>
            <style>
            body { margin: 0; background: #f4f2ec; color: #23231f; font: 17px/1.5 Georgia, serif }
            main { max-width: 34rem; margin: 12vh auto 0; padding: 0 1.5rem }
            h1 { font-size: 1.5rem; line-height: 1.25 }
            button { font: inherit; padding: .6rem 1.1rem; border: 0; border-radius: .3rem }
            button { background: #1d5a44; color: #fff; cursor: pointer }
            button:focus-visible { outline: 3px solid #c98a12; outline-offset: 2px }
            address { margin-top: 3rem; font-style: normal; font-size: .85rem; color: #5f5b50; white-space: pre-line }
            </style>
            </head>
            <body><main><h1>{{E(page.Title)}}</h1><p>{{E(page.Text)}}</p>{{form}}<address>{{E(sender)}}</address></main></body>
            </html>
            """,
            "text/html; charset=utf-8",
            statusCode: page.Status
        );
    }
}
