using System.Reflection;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Audits;
using GoldenRule.Server.Checks;
using GoldenRule.Server.Coverage;
using GoldenRule.Server.Demo;
using GoldenRule.Server.Desks;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.Files;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.HouseStyles;
using GoldenRule.Server.Jobs;
using GoldenRule.Server.People;
using GoldenRule.Server.Pictures;
using GoldenRule.Server.Rows;
using GoldenRule.Server.Templates;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

// The OpenAPI generator runs this program to look at it; it has no database then.
var describing = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
var builder = WebApplication.CreateBuilder(args);
var connection = builder.Configuration.GetConnectionString("GoldenRule") ?? "Host=127.0.0.1;Database=golden_rule";

builder.Services.AddDbContextPool<GoldenRuleDb>(options => options.UseGoldenRule(connection));
var protection = builder.Services.AddDataProtection().SetApplicationName("GoldenRule");
if (!describing)
{
    protection.PersistKeysToDbContext<GoldenRuleDb>();
}

builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton<LibraryKeeper>();
builder.Services.AddSingleton<HeadCache>();
builder.Services.AddSingleton<ProofPress>();
builder.Services.AddScoped<EditRoad>();
builder.Services.AddScoped<Releasing>();
builder.Services.AddScoped<Desk>();
builder.Services.AddScoped<Room>();
builder.Services.AddScoped<EmailSearch>();
builder.Services.AddScoped<DocumentMaker>();
builder.Services.AddScoped<TemplateIntake>();
builder.Services.AddScoped<DemoLoader>();
builder.Services.AddJobs(connection, describing);
if (!describing)
{
    builder.Services.AddHostedService<LiveNews>();
}

builder.Services.AddSignalR().AddJsonProtocol(o => DocumentJson.ConfigureRequests(o.PayloadSerializerOptions));
builder.Services.ConfigureHttpJsonOptions(o => DocumentJson.ConfigureRequests(o.SerializerOptions));
builder.Services.AddProblemDetails();
builder.Services.AddExceptionHandler<ProblemHandler>();
builder.Services.AddHealthChecks().AddCheck<DatabaseReady>("database", tags: ["ready"]);
builder.Services.AddResponseCompression(o => o.EnableForHttps = true);
builder.Services.AddOpenApi(ApiDescription.Describe);
builder.Services.AddIdentityCore<Account>(o =>
    {
        o.User.RequireUniqueEmail = true;
        o.Password.RequiredLength = 12;
        o.Password.RequireNonAlphanumeric = o.Password.RequireDigit = o.Password.RequireUppercase = false;
        o.Lockout.MaxFailedAccessAttempts = 8;
    })
    .AddRoles<IdentityRole<Guid>>()
    .AddEntityFrameworkStores<GoldenRuleDb>()
    .AddSignInManager();
builder.Services.AddAuthentication(IdentityConstants.ApplicationScheme).AddCookie(IdentityConstants.ApplicationScheme, o =>
{
    o.Cookie.Name = "golden-rule";
    o.Cookie.SameSite = SameSiteMode.Strict;
    o.Cookie.HttpOnly = true;
    o.ExpireTimeSpan = TimeSpan.FromDays(14);
    o.SlidingExpiration = true;
    // An API answers with a status, not with a page to go to.
    o.Events.OnRedirectToLogin = c => StatusAnswer.WriteAsync(c.HttpContext, 401);
    o.Events.OnRedirectToAccessDenied = c => StatusAnswer.WriteAsync(c.HttpContext, 403);
});
builder.Services.AddAuthorization();

var app = builder.Build();
app.UseExceptionHandler();
app.UseStatusCodePages(c => StatusAnswer.WriteAsync(c.HttpContext, c.HttpContext.Response.StatusCode));
app.UseResponseCompression();
app.Use(SecurityHeaders.Add);
app.Use(PlainAddress.Require);
app.UseDefaultFiles();
app.UseStaticFiles(SecurityHeaders.StaticFiles);
app.UseAuthentication();
app.UseAuthorization();

app.MapHealthChecks("/health/live", new() { Predicate = _ => false }).AllowAnonymous();
app.MapHealthChecks("/health/ready", new() { Predicate = c => c.Tags.Contains("ready") }).AllowAnonymous();
app.MapOpenApi("/api/openapi.json");
app.MapPictureFiles();
app.MapHub<LiveHub>(LiveHub.Path);

var api = app.MapGroup("/api").RequireAuthorization();
api.MapSession();
api.MapTemplates();
api.MapRows();
api.MapCoverage();
api.MapBlockKinds();
api.MapEmails();
api.MapChecks();
api.MapAudits();
api.MapJobs();
api.MapFiles();
api.MapHouseStyles();
api.MapPictures();
app.MapGet("/api/{**rest}", (HttpContext http) => StatusAnswer.WriteAsync(http, 404)).ExcludeFromDescription();
app.MapFallbackToFile("index.html").AllowAnonymous();

if (!describing)
{
    await using var scope = app.Services.CreateAsyncScope();
    await Connecting.MigrateAsync(scope.ServiceProvider.GetRequiredService<GoldenRuleDb>());
    if (builder.Configuration["Demo:Folder"] is { Length: > 0 } folder)
    {
        await scope.ServiceProvider.GetRequiredService<DemoLoader>().LoadAsync(folder, CancellationToken.None);
    }
}

await app.RunAsync();

/// <summary>Named so that the tests can start it.</summary>
public sealed partial class Program;
