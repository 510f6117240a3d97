using System.Globalization;
using System.Net;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Bandeja.Acts;
using Bandeja.Acts.Lists;
using Bandeja.Acts.Segments;
using Bandeja.Server.Endpoints;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Devices;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Mail;
using Bandeja.Store.People;
using Bandeja.Store.Proofs;
using Bandeja.Store.Returns;
using Bandeja.Store.Runs;
using Bandeja.Store.Sequences;
using Bandeja.Work.Announcing;
using Bandeja.Work.Campaigns;
using Bandeja.Work.Composition;
using Bandeja.Work.Devices;
using Bandeja.Work.Documents;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using Bandeja.Work.Mail;
using Bandeja.Work.People;
using Bandeja.Work.Production;
using Bandeja.Work.Reading;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.Extensions.FileProviders;

namespace Bandeja.Server;

/// <summary>Puts the server together. The tests and the bench start it the same way as <c>Program</c> does.</summary>
public static class Application
{
    /// <summary>Builds a server that is ready to start.</summary>
    public static WebApplication Build(ServerOptions options, Action<WebApplicationBuilder>? configure = null)
    {
        // What is said here is American English, on whatever machine; what is printed for recipients follows the organization's settings.
        CultureInfo.DefaultThreadCurrentCulture =
            CultureInfo.DefaultThreadCurrentUICulture =
            CultureInfo.CurrentCulture =
            CultureInfo.CurrentUICulture =
                CultureInfo.GetCultureInfo("en-US");
        var builder = WebApplication.CreateSlimBuilder(new WebApplicationOptions { Args = [], ContentRootPath = AppContext.BaseDirectory });
        builder.WebHost.ConfigureKestrel(k =>
        {
            k.Limits.MaxRequestBodySize = ServerOptions.MaxUpload;
            k.AddServerHeader = false;
        });
        builder.WebHost.UseKestrelHttpsConfiguration();
        if (options.Certificate is { } certificate)
            builder.WebHost.ConfigureKestrel(k => k.ConfigureHttpsDefaults(h => h.ServerCertificate = certificate));
        var place = IPAddress.Parse(options.Listen);
        builder.WebHost.UseUrls($"{(options.Certificate is null ? "http" : "https")}://{new IPEndPoint(place, options.Port)}");
        builder.Logging.SetMinimumLevel(LogLevel.Warning);
        // The keys lie in the data folder, beside what they protect from being read in the database alone; that is meant.
        builder.Logging.AddFilter("Microsoft.AspNetCore.DataProtection", LogLevel.Error);
        var folder = new DataFolder(options.Data);
        try
        {
            return Build(options, builder, folder, configure);
        }
        catch
        {
            folder.Dispose();
            throw;
        }
    }

    static WebApplication Build(
        ServerOptions options,
        WebApplicationBuilder builder,
        DataFolder folder,
        Action<WebApplicationBuilder>? configure
    )
    {
        Services(builder.Services, options);
        // Disposed of last, because it is the first: until then nobody else may use the folder.
        builder.Services.AddSingleton(_ => folder);
        configure?.Invoke(builder);
        var app = builder.Build();
        if (options.Proxies.Count > 0)
        {
            var forwarded = new ForwardedHeadersOptions
            {
                ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
            };
            forwarded.KnownProxies.Clear();
            forwarded.KnownIPNetworks.Clear();
            foreach (var proxy in options.Proxies)
                forwarded.KnownProxies.Add(proxy);
            app.UseForwardedHeaders(forwarded);
        }
        app.UseMiddleware<Guard>();
        // Over TLS only the built files are compressed: in them is nothing whose length could tell a secret.
        app.UseWhen(c => !c.Request.IsHttps || c.Request.Path.StartsWithSegments("/assets"), branch => branch.UseResponseCompression());
        app.UseExceptionHandler();
        Endpoints(app.MapGroup("/api").WithTags("Bandeja").AddEndpointFilter(OneView));
        UnsubscribeEndpoints.Map(app);
        WorkEndpoints.MapFeed(app);
        Health.Map(app);
        app.MapOpenApi("/api/openapi.json");
        app.Lifetime.ApplicationStarted.Register(() =>
            app.Services.GetRequiredService<PublicAddress>().Port = new Uri(app.Urls.First()).Port
        );
        // From the beginning it listens for what changes; and what an upgrade changed about drops is checked without anybody asking.
        var checks = app.Services.GetRequiredService<CheckRequests>();
        app.Lifetime.ApplicationStarted.Register(checks.All);
        // After the last request, and before anything that a check reads is closed.
        app.Lifetime.ApplicationStopped.Register(checks.Stop);
        if (options.Web is not null)
            Web(app, options.Web);
        RowWriter.RemoveUnfinished(app.Services.GetRequiredService<Database>());
        app.Services.GetRequiredService<RunMails>().TakeUpAll(app.Services.GetRequiredService<TimeProvider>().GetUtcNow());
        DetailStore.RemoveUnfinished(app.Services.GetRequiredService<Database>());
        return app;
    }

    static void Services(IServiceCollection services, ServerOptions options)
    {
        services.AddSingleton(options);
        services.AddSingleton<TimeProvider>(s => new OrganizationTime(TimeProvider.System, s.GetRequiredService<SettingStore>));
        services.AddResponseCompression(o =>
        {
            o.EnableForHttps = true;
            o.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "image/svg+xml", "text/markdown"];
            o.Providers.Add<BrotliCompressionProvider>();
            o.Providers.Add<GzipCompressionProvider>();
        });
        services.AddSingleton(s => new Database(
            Path.Combine(options.Data, "bandeja.sqlite"),
            lookThrough: s.GetRequiredService<DataFolder>().WasLeftOpen
        ));
        services
            .AddSingleton<ListStore>()
            .AddSingleton<DesignStore>()
            .AddSingleton<DesignFiles>()
            .AddSingleton<DropStore>()
            .AddSingleton<RunStore>()
            .AddSingleton<RunPlanning>()
            .AddSingleton<RunFreezing>()
            .AddSingleton<RunLife>()
            .AddSingleton<RunLog>()
            .AddSingleton<LedgerExport>()
            .AddSingleton<CampaignStore>()
            .AddSingleton<DropIssues>()
            .AddSingleton<BenchRows>()
            .AddSingleton<HoldGroups>()
            .AddSingleton<PrintedIssues>()
            .AddSingleton<DropHistory>()
            .AddSingleton<JobStore>()
            .AddSingleton<SettingStore>();
        services
            .AddSingleton<Surroundings>()
            .AddSingleton<Func<ListSurroundings>>(s =>
            {
                // Asked for now: what is done last as the server closes cannot ask for parts anymore.
                var surroundings = s.GetRequiredService<Surroundings>();
                return () => surroundings.Now;
            })
            .AddSingleton<StepMembers>()
            .AddSingleton<StepEdits>()
            .AddSingleton<DailyCollection>()
            .AddSingleton<CampaignDesk>()
            .AddSingleton<CampaignSight>()
            .AddSingleton<StepPreview>()
            .AddSingleton<Patterns>()
            .AddSingleton<ResponseStore>()
            .AddSingleton<CampaignReports>()
            .AddSingleton<ReportPdf>()
            .AddSingleton<WorkList>()
            .AddSingleton<MailCalendar>()
            .AddSingleton<SequenceWork>();
        services.AddSingleton(s => new ListEditor(
            s.GetRequiredService<Database>(),
            () => s.GetRequiredService<Surroundings>().Now,
            s.GetRequiredService<DropChecker>().Check
        ));
        services
            .AddSingleton<BenchStore>()
            .AddSingleton<PieceFinder>()
            .AddSingleton<ReturnStore>()
            .AddSingleton<ReturnImport>()
            .AddSingleton<Removals>()
            .AddSingleton<RemovedFiles>()
            .AddSingleton<ListUndo>()
            .AddSingleton<ColumnStore>()
            .AddSingleton<CheckIssues>()
            .AddSingleton<DuplicateStore>()
            .AddSingleton<HouseholdStore>();
        services
            .AddSingleton<SegmentStore>()
            .AddSingleton<SuppressionStore>()
            .AddSingleton<DetailStore>()
            .AddSingleton<ReloadStore>()
            .AddSingleton<VersionStore>();
        services.AddSingleton<ListWork>().AddSingleton<JobBells>();
        services
            .AddSingleton<TypefaceStore>()
            .AddSingleton<Typefaces>()
            .AddSingleton(s =>
            {
                var fonts = Formats.FontFolder.Load();
                Typefaces.Load(fonts, s.GetRequiredService<TypefaceStore>(), options.Folder("typefaces"));
                return fonts;
            });
        // The pool belongs to the process: whoever closes this server does not close it.
        services.AddSingleton(ReaderPool.Shared).AddSingleton<FileReader>();
        services
            .AddSingleton<PdfPasswords>()
            .AddSingleton<PictureFiles>()
            .AddSingleton<DocumentFiles>()
            .AddSingleton<BroughtLetters>()
            .AddSingleton<FormFiles>()
            .AddSingleton<Letters>()
            .AddSingleton<LetterBench>()
            .AddSingleton<DropDependencies>()
            .AddSingleton<DropChecker>()
            .AddSingleton<PackagePlan>()
            .AddSingleton<PrinterStore>();
        services
            .AddSingleton<PracticeStore>()
            .AddSingleton<PrintDevices>()
            .AddSingleton<RunBatches>()
            .AddSingleton<RunFiles>()
            .AddSingleton<BatchFiles>()
            .AddSingleton<RunSecrets>()
            .AddSingleton<Reprints>()
            .AddSingleton<RunPlanner>();
        services.AddDataProtection().SetApplicationName("bandeja").PersistKeysToFileSystem(new DirectoryInfo(options.Folder("keys")));
        services
            .AddSingleton<MailAccounts>()
            .AddSingleton<MailFiles>()
            .AddSingleton<MailReports>()
            .AddSingleton<MailSecrets>()
            .AddSingleton<AttachmentFiles>()
            .AddSingleton<Messages>()
            .AddSingleton<MailPlan>()
            .AddSingleton<RunMailFiles>();
        services.AddSingleton(s => new RunMails(
            s.GetRequiredService<Database>(),
            s.GetRequiredService<DropChecker>().Check,
            s.GetRequiredService<Func<ListSurroundings>>()
        ));
        services
            .AddSingleton<AccountPaces>()
            .AddSingleton<DomainRecords>()
            .AddSingleton<MailHosts>()
            .AddSingleton<AccountTest>()
            .AddSingleton<PublicAddress>()
            .AddSingleton<Unsubscribing>()
            .AddSingleton<DeliveryReports>()
            .AddSingleton<MailRoom>();
        // A mail server elsewhere would have a database of its own; so has the practice one.
        services.AddSingleton(_ => new PostOfficeStore(
            new Database(Path.Combine(options.Data, "post-office.sqlite"), PostOfficeStore.Migrations)
        ));
        services.AddSingleton<PracticeMailbox>().AddHostedService(s => s.GetRequiredService<PracticeMailbox>());
        services.AddSingleton<BounceMailboxes>().AddSingleton<BounceReading>().AddHostedService(s => s.GetRequiredService<BounceReading>());
        services.AddSingleton<PostOffice>().AddHostedService(s => s.GetRequiredService<PostOffice>());
        services.AddSingleton<ProofStore>().AddSingleton<ProofSets>().AddSingleton<ProofPdf>();
        services.AddSingleton(s => new OneOffs(s.GetRequiredService<Database>(), s.GetRequiredService<DropChecker>().Check));
        services
            .AddSingleton<PeopleFolder>()
            .AddSingleton<PersonFileStore>()
            .AddSingleton<PersonNotes>()
            .AddSingleton<PersonFiles>()
            .AddSingleton<PeopleRecognition>()
            .AddSingleton<PeopleStore>();
        services.AddSingleton<EventHub>().AddSingleton<CheckRequests>().AddSingleton<Announcements>().AddSingleton<JobQueue>();
        Acts(services);
        services
            .AddSingleton<IJobKind, ImportJob>()
            .AddSingleton<IJobKind, RunJob>()
            .AddSingleton<IJobKind, PrintJob>()
            .AddSingleton<IJobKind, SendJob>()
            .AddSingleton<IJobKind, RemakeJob>()
            .AddSingleton<IJobKind, CheckJob>()
            .AddSingleton<IJobKind, CollectJob>();
        services
            .AddSingleton<IJobKind, ListCheckJob>()
            .AddSingleton<IJobKind, ComputeJob>()
            .AddSingleton<IJobKind, DuplicateJob>()
            .AddSingleton<IJobKind, PeopleJob>()
            .AddSingleton<IJobKind, ReloadJob>()
            .AddSingleton<IJobKind, DetailJob>()
            .AddSingleton<IJobKind, SuppressionJob>();
        services.AddSingleton<JobRunner>().AddHostedService(s => s.GetRequiredService<JobRunner>());
        services
            .AddHostedService<PracticeRollers>()
            .AddSingleton<OldUploads>()
            .AddHostedService<OldFiles>()
            .AddHostedService<CampaignClock>();
        services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
        services.AddProblemDetails().AddExceptionHandler<Problems>();
        services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.Converters.Add(EnumNames);
            json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
            // A property that is not known is a mistake of whoever wrote it: taken silently, a filter with a slip in its name would select
            // everyone.
            json.SerializerOptions.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
            json.SerializerOptions.RespectNullableAnnotations = true;
            json.SerializerOptions.RespectRequiredConstructorParameters = true;
            json.SerializerOptions.MaxDepth = 512;
            // What a run makes may stand anywhere in its order.
            json.SerializerOptions.AllowOutOfOrderMetadataProperties = true;
        });
        services.AddApiDescription();
        // After the packages, which put resolvers of their own before it: ours does what theirs do.
        services.PostConfigure<JsonOptions>(json => json.SerializerOptions.TypeInfoResolver = Types);
        Health.Add(services);
    }

    // Both are one for all servers of a process: serializer options that are equal down to these share what was learned of types and the
    // code made for them. Tests start many servers in one process, and that was most of what these compiled.
    static readonly DefaultJsonTypeInfoResolver Types = new();
    static readonly JsonStringEnumConverter EnumNames = new(namingPolicy: null, allowIntegerValues: false);

    /// <summary>Everything that can be done, by its class, with what several acts share.</summary>
    static void Acts(IServiceCollection services)
    {
        foreach (var act in ActRegistry.All)
            services.AddSingleton(act.Act);
        services.AddSingleton<Performer>().AddSingleton<ActLog>();
        services
            .AddSingleton<Bandeja.Acts.Designs.DocumentLetter>()
            .AddSingleton<Computing>()
            .AddSingleton<SegmentFilters>()
            .AddSingleton<ReplacementSearch>();
        services.AddSingleton<Uploads>().AddSingleton<NewerFiles>().AddSingleton<DropMail>().AddSingleton<ProofReview>();
    }

    /// <summary>An answer is made from one state of the data, whatever is written while it is made.</summary>
    static async ValueTask<object?> OneView(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        if (!HttpMethods.IsGet(context.HttpContext.Request.Method))
            return await next(context);
        using (context.HttpContext.RequestServices.GetRequiredService<Database>().Hold())
            return await next(context);
    }

    static void Endpoints(RouteGroupBuilder api)
    {
        SettingEndpoints.Map(api);
        SetupEndpoints.Map(api);
        ImportEndpoints.Map(api);
        ListEndpoints.Map(api);
        ListEditEndpoints.Map(api);
        ColumnEndpoints.Map(api);
        CheckIssueEndpoints.Map(api);
        DuplicateEndpoints.Map(api);
        SegmentEndpoints.Map(api);
        SuppressionEndpoints.Map(api);
        ReturnEndpoints.Map(api);
        DetailEndpoints.Map(api);
        ReloadEndpoints.Map(api);
        DesignEndpoints.Map(api);
        DocumentEndpoints.Map(api);
        FormEndpoints.Map(api);
        DropEndpoints.Map(api);
        CampaignEndpoints.Map(api);
        ResponseEndpoints.Map(api);
        PeopleEndpoints.Map(api);
        WorkEndpoints.Map(api);
        ProofEndpoints.Map(api);
        OneOffEndpoints.Map(api);
        RunEndpoints.Map(api);
        SurfaceEndpoints.Map(api);
        TypefaceEndpoints.Map(api);
        PrinterEndpoints.Map(api);
        AddressingEndpoints.Map(api);
        MailEndpoints.Map(api);
        PostOfficeEndpoints.Map(api);
        api.MapFallback("/{**path}", (HttpContext context) => Problems.Write(context, 404, "This page does not exist."))
            .ExcludeFromDescription();
    }

    static void Web(WebApplication app, string folder)
    {
        var files = new PhysicalFileProvider(Path.GetFullPath(folder));
        app.UseStaticFiles(
            new StaticFileOptions
            {
                FileProvider = files,
                // Built files carry their digest in their name; the page that names them is asked for anew.
                OnPrepareResponse = r =>
                    r.Context.Response.Headers.CacheControl = r.Context.Request.Path.StartsWithSegments("/assets")
                        ? "public, max-age=31536000, immutable"
                        : "no-cache",
            }
        );
        app.UseStaticFiles(
            new StaticFileOptions
            {
                FileProvider = new PhysicalFileProvider(Path.Combine(AppContext.BaseDirectory, "fonts")),
                RequestPath = "/paper-fonts",
                ServeUnknownFileTypes = false,
                ContentTypeProvider = new Microsoft.AspNetCore.StaticFiles.FileExtensionContentTypeProvider(
                    new Dictionary<string, string> { [".ttf"] = "font/ttf", [".txt"] = "text/plain" }
                ),
            }
        );
        app.MapFallback(async context =>
        {
            context.Response.ContentType = "text/html; charset=utf-8";
            context.Response.Headers.CacheControl = "no-cache";
            await context.Response.SendFileAsync(files.GetFileInfo("index.html"));
        });
    }
}
