using System.Reflection;
using System.Security.Cryptography.X509Certificates;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Audiences;
using GoldenRule.Server.Audits;
using GoldenRule.Server.Checks;
using GoldenRule.Server.Coverage;
using GoldenRule.Server.Demo;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Files;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Home;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Mail;
using GoldenRule.Server.People;
using GoldenRule.Server.Pictures;
using GoldenRule.Server.Plan;
using GoldenRule.Server.Returns;
using GoldenRule.Server.Reviews;
using GoldenRule.Server.Rows;
using GoldenRule.Server.Search;
using GoldenRule.Server.Sends;
using GoldenRule.Server.Snippets;
using GoldenRule.Server.Templates;
using GoldenRule.Server.TestSends;
using GoldenRule.Server.Thumbnails;
using GoldenRule.Server.Tokens;
using GoldenRule.Server.Webhooks;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;

// The OpenAPI generator runs this program to look at it; it has no database then.
var describing = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
var builder = WebApplication.CreateBuilder(args);
var connection = builder.Configuration.GetConnectionString("GoldenRule") ?? "Host=127.0.0.1;Database=golden_rule";

builder.Services.AddDbContextPool<GoldenRuleDb>(options => options.UseGoldenRule(connection).AddInterceptors(new LiftBudgetOnSave()));
PublicAddress.Configure(builder.Services, builder.Configuration);
var protection = builder.Services.AddDataProtection().SetApplicationName("GoldenRule");
if (builder.Configuration["DataProtection:Certificate"] is { Length: > 0 } certificate)
{
    protection.ProtectKeysWithCertificate(
        X509CertificateLoader.LoadPkcs12FromFile(certificate, builder.Configuration["DataProtection:Password"])
    );
}

if (!describing)
{
    protection.PersistKeysToDbContext<GoldenRuleDb>();
}

builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton<LibraryCache>();
builder.Services.AddSingleton<HeadCache>();
builder.Services.AddSingleton<HouseStyleAnswers>();
builder.Services.AddSingleton<CompilationCache>();
builder.Services.AddSingleton<WorkerConfinement>();
builder.Services.AddSingleton<PictureWorkers>();
builder.Services.AddSingleton<PictureIntake>();
builder.Services.AddSingleton<ThumbnailContents>();
builder.Services.AddSingleton<ThumbnailDrawing>();
builder.Services.AddSingleton<HistoryGrowth>();
builder.Services.AddSingleton<RequestBudgets>();
builder.Services.AddScoped<EditPipeline>();
builder.Services.AddScoped<Releasing>();
builder.Services.AddScoped<ReleasePlans>();
builder.Services.AddScoped<Desk>();
builder.Services.AddScoped<HeldEmails>();
builder.Services.AddScoped<ReviewDesk>();
builder.Services.AddScoped<HandOffDesk>();
builder.Services.AddScoped<HandOffAnswers>();
builder.Services.AddScoped<PersonalSending>();
builder.Services.AddSingleton<BrowserPages>();
builder.Services.AddScoped<ReviewAnswers>();
builder.Services.AddScoped<ReviewComparisons>();
builder.Services.AddScoped<HomeDesk>();
builder.Services.AddScoped<OpenReviews>();
foreach (var source in WaitSource.All)
{
    builder.Services.AddScoped(typeof(WaitSource), source);
}

builder.Services.AddScoped<NoticeDesk>();
builder.Services.AddScoped<NoticeDigest>();
builder.Services.AddScoped<SendCalendar>();
builder.Services.AddScoped<LibraryHealth>();
builder.Services.AddScoped<DocumentAccess>();
builder.Services.AddScoped<DocumentMaker>();
builder.Services.AddScoped<TemplateIntake>();
builder.Services.AddScoped<DemoLoader>();
builder.Services.AddJobs(connection, describing);
builder.Services.Configure<MailSettings>(builder.Configuration.GetSection("Mail"));
builder.Services.AddSingleton<MailSignal>();
builder.Services.AddSingleton<Outbox>();

// What its settings name is connected to as it is, inward or not.
builder.Services.AddSingleton(services => new MailServer(services.GetRequiredService<IOptions<MailSettings>>()));
builder.Services.AddSingleton<OutboundConnections>();
builder.Services.AddDestinations(describing);
builder.Services.AddWebhooks(describing);
builder.Services.AddScoped<TestSendDesk>();
builder.Services.AddSingleton<LiveNews>();
builder.Services.AddSingleton<LiveSessions>();
if (!describing)
{
    builder.Services.AddHostedService(services => services.GetRequiredService<LiveNews>());
    builder.Services.AddHostedService(services => services.GetRequiredService<LiveSessions>());
    builder.Services.AddHostedService<MailSending>();
    builder.Services.AddHostedService<LogRetention>();
    builder.Services.AddHostedService<OvertakenApprovals>();
    builder.Services.AddHostedService<PlannedReleasing>();
    builder.Services.AddHostedService<NoticeMail>();
    builder.Services.AddHostedService<ReferenceIntake>();
    builder.Services.AddHostedService<WordsIntake>();
    builder.Services.AddHostedService<SnapshotIntake>();
    builder.Services.AddHostedService(services => services.GetRequiredService<ThumbnailDrawing>());
}

builder.Services.AddSignalR().AddJsonProtocol(o => DocumentJson.ConfigureRequests(o.PayloadSerializerOptions));
builder.Services.ConfigureHttpJsonOptions(o => DocumentJson.ConfigureRequests(o.SerializerOptions));
builder.Services.AddProblemDetails();
builder.Services.AddExceptionHandler<ProblemHandler>();
builder.Services.AddHealthChecks().AddCheck<DatabaseReady>("database", tags: ["ready"]);
builder.Services.AddResponseCompression(o => o.EnableForHttps = true);
builder.Services.AddOpenApi(ApiDescription.Describe);
builder.Services.AddSingleton<ApiDescriptionFile>();
RateLimits.Configure(builder.Services, builder.Configuration);
builder
    .Services.AddIdentityCore<Account>(o =>
    {
        o.Tokens.PasswordResetTokenProvider = ResetTokens.Name;
        o.User.RequireUniqueEmail = true;
        o.Password.RequiredLength = 12;
        o.Password.RequireNonAlphanumeric = o.Password.RequireDigit = o.Password.RequireUppercase = false;
    })
    .AddRoles<IdentityRole<Guid>>()
    .AddEntityFrameworkStores<GoldenRuleDb>()
    .AddSignInManager()
    .AddDefaultTokenProviders()
    .AddTokenProvider<ResetTokens>(ResetTokens.Name);
var openId = builder.Configuration.GetSection("OpenIdConnect").Get<OpenIdSettings>() ?? new OpenIdSettings();
var authentication = builder
    .Services.AddAuthentication(IdentityConstants.ApplicationScheme)
    .AddCookie(IdentityConstants.ApplicationScheme, o =>
    {
        o.Cookie.SameSite = SameSiteMode.Strict;
        o.Cookie.HttpOnly = true;
        o.ExpireTimeSpan = TimeSpan.FromDays(14);
        o.SlidingExpiration = true;
        // An API answers with a status, not with a page to go to.
        o.Events.OnRedirectToLogin = c => StatusAnswer.WriteAsync(c.HttpContext, 401);
        o.Events.OnRedirectToAccessDenied = c => StatusAnswer.WriteAsync(c.HttpContext, 403);
    });
if (openId.IsSet)
{
    OpenIdSignIn.Add(authentication, openId);
}

builder.Services.AddSingleton(openId);
builder.Services.AddSingleton<SessionStore>();
builder.Services.AddSingleton<SignInTries>();
builder.Services.AddSingleton<Setup>();
builder
    .Services.AddOptions<CookieAuthenticationOptions>(IdentityConstants.ApplicationScheme)
    .Configure<SessionStore, PublicAddress>(
        (o, sessions, address) =>
        {
            o.SessionStore = sessions;
            // The browser itself holds a name that begins so to HTTPS, this host and every path (RFC 6265bis, 4.1.3.2).
            o.Cookie.Name = address.IsHttps ? "__Host-golden-rule" : "golden-rule";
            o.Cookie.SecurePolicy = address.IsHttps ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;
        }
    );
authentication.AddTokens();
builder.Services.AddAuthorization(TokenScopes.AddPolicies);
builder.Services.AddSingleton<HandOffLinks>();
builder.Services.AddScoped<ReaderReturns>();
builder.Services.AddScoped<SendDesk>();

var app = builder.Build();
app.UseForwardedHeaders();
if (app.Services.GetRequiredService<PublicAddress>().IsHttps)
{
    app.UseHsts();
}

app.UseExceptionHandler();
app.UseStatusCodePages(c => StatusAnswer.WriteAsync(c.HttpContext, c.HttpContext.Response.StatusCode));
app.UseResponseCompression();
app.Use(SecurityHeaders.Add);
app.UsePageRelease(app.Environment.WebRootFileProvider);
app.Use(PlainAddress.Require);
app.Use(SameOrigin.Require);
app.UseDefaultFiles();
app.UseStaticFiles(SecurityHeaders.StaticFiles);
app.UseAuthentication();
app.Use(PagePerson.Require);
app.UseRateLimiter();
app.UseAuthorization();
app.Use(app.Services.GetRequiredService<RequestBudgets>().BoundAsync);

app.MapHealthChecks("/health/live", new() { Predicate = _ => false }).AllowAnonymous();
app.MapHealthChecks("/health/ready", new() { Predicate = c => c.Tags.Contains("ready") }).AllowAnonymous();
app.MapPictureFiles();
app.MapBrowserPages();
app.MapHub<LiveHub>(LiveHub.Path);

app.MapForPrograms();
app.MapUnsubscribing();
var api = app.MapGroup("/api").RequireAuthorization();
api.MapGet("/openapi.json", (ApiDescriptionFile file, CancellationToken cancel) => file.GetAsync(cancel)).ExcludeFromDescription();
api.MapSetup();
api.MapOpenId(openId);
api.MapSession();
api.MapPasswords();
api.MapTwoFactor();
api.MapAccounts();
api.MapInvitations();
api.MapFirstSteps();
api.MapSearch();
api.MapTeams();
api.MapCampaignTypes();
api.MapRowKinds();
api.MapHome();
api.MapReviews();
api.MapComments();
api.MapHandOffs();
api.MapDestinations();
api.MapPushes();
api.MapSends();
api.MapReturns();
api.MapTokens();
api.MapWebhooks();
api.MapTestSends();
api.MapTesters();
api.MapTemplates();
api.MapRows();
api.MapCoverage();
api.MapBlockKinds();
api.MapEmails();
api.MapLanguages();
api.MapChecks();
api.MapAudits();
api.MapJobs();
api.MapLog();
api.MapMailroom();
api.MapFiles();
api.MapHouseStyles();
api.MapSnippets();
api.MapAudiences();
api.MapPictures();
api.MapThumbnails();
app.MapGet("/api/{**rest}", (HttpContext http) => StatusAnswer.WriteAsync(http, 404)).ExcludeFromDescription();
app.MapFallbackToFile("index.html").AllowAnonymous();

if (!describing)
{
    await using var scope = app.Services.CreateAsyncScope();
    var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
    await Connecting.MigrateAsync(db);
    if (args is [ReferenceCheck.Command, ..])
    {
        return await ReferenceCheck.RunAsync(db, Console.Out, CancellationToken.None);
    }

    if (builder.Configuration["Demo:Folder"] is { Length: > 0 } folder)
    {
        await scope.ServiceProvider.GetRequiredService<DemoLoader>().LoadAsync(folder, CancellationToken.None);
        await DemoSending.KnowPlatformAsync(builder.Configuration, db, app.Services.GetRequiredService<DestinationKinds>());
    }

    await app.Services.GetRequiredService<Setup>().TellAsync(db, CancellationToken.None);
}

await app.RunAsync();
return 0;

/// <summary>Named so that the tests can start it.</summary>
public sealed partial class Program;
