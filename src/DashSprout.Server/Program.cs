using System.Net;
using System.Reflection;
using System.Text.Json.Serialization;
using DashSprout.Server.Bodies;
using DashSprout.Server.Demo;
using DashSprout.Server.Exchange;
using DashSprout.Server.Finding;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;
using DashSprout.Server.Media;
using DashSprout.Server.Rehearsals;
using DashSprout.Server.Safety;
using DashSprout.Server.Settings;
using DashSprout.Server.Typing;
using DashSprout.Store;
using Microsoft.AspNetCore.SignalR;
using Serilog;
using Serilog.Events;

var builder = WebApplication.CreateBuilder(args);
var options = StartOptions.Read(builder.Configuration);

// Requests are not logged: their addresses and bodies hold what people type.
builder.Services.AddSerilog(
    log => log.MinimumLevel.Information().MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
        // A hub's own error log repeats what was sent; HubFaults says what is needed.
        .MinimumLevel.Override("Microsoft.AspNetCore.SignalR", LogEventLevel.Fatal)
        .WriteTo.Console(formatProvider: System.Globalization.CultureInfo.InvariantCulture),
    preserveStaticLogger: true);

builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.Limits.MaxRequestBodySize = 8 * 1024 * 1024;
    kestrel.Listen(IPAddress.Loopback, options.Port);
    if (System.Net.Sockets.Socket.OSSupportsIPv6) kestrel.Listen(IPAddress.IPv6Loopback, options.Port);
});

builder.Services.ConfigureHttpJsonOptions(json =>
{
    json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    json.SerializerOptions.RespectNullableAnnotations = true;
    json.SerializerOptions.RespectRequiredConstructorParameters = true;
    json.SerializerOptions.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
});
builder.Services.Configure<RouteHandlerOptions>(route => route.ThrowOnBadRequest = true);
builder.Services.AddProblemDetails();
builder.Services.AddExceptionHandler<Problems>();
builder.Services.AddDashSproutDocument();
// A selection or clipboard of a million characters fits, escaped.
builder.Services.AddSignalR(hub =>
{
    hub.MaximumReceiveMessageSize = 8 * 1024 * 1024;
    hub.AddFilter<HubFaults>();
});
builder.Services.AddSingleton<HubFaults>();
builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton(_ => new Database(Path.Combine(options.DataFolder, "dash-sprout.sqlite")));
builder.Services.AddSingleton<LibraryStore>();
builder.Services.AddSingleton<SettingStore>();
builder.Services.AddSingleton<Catalog>();
builder.Services.AddSingleton<EngineSwitch>();
builder.Services.AddSingleton<MediaStore>();
builder.Services.AddSingleton<Surroundings>();
builder.Services.AddSingleton<SafetyStore>();
builder.Services.AddSingleton<SnippetSearch>();
builder.Services.AddSingleton<WordLists>();
builder.Services.AddSingleton<SafetyBoard>();
builder.Services.AddSingleton<FiringLog>();
builder.Services.AddHostedService(services => services.GetRequiredService<FiringLog>());

var app = builder.Build();
// What a handler turned into a problem document is not logged: its words may be the user's.
app.UseExceptionHandler();
app.UseStatusCodePages();
app.UseOwnPageOnly();
app.UseStaticFiles(new StaticFileOptions
{
    OnPrepareResponse = context => context.Context.Response.Headers.CacheControl =
        context.Context.Request.Path.StartsWithSegments("/assets") ? "public, max-age=31536000, immutable" : "no-cache",
});

app.MapGet("/healthz", () => "ready").ExcludeFromDescription();
var api = app.MapGroup("/api");
api.MapLibraries();
api.MapSnippets();
api.MapExchange();
api.MapRehearsal();
api.MapEngine();
api.MapPreview();
api.MapSettings();
api.MapMedia();
api.MapSafety();
api.MapBoard();
api.MapFinder();
api.MapFallback(() => TypedResults.Problem("There is nothing at this address.", statusCode: StatusCodes.Status404NotFound, title: "Not found")).ExcludeFromDescription();
app.MapHub<TypingHub>("/hub/typing");
app.MapOpenApi("/api/openapi/{documentName}.json");
app.MapFallbackToFile("index.html", new StaticFileOptions
{
    OnPrepareResponse = context => context.Context.Response.Headers.CacheControl = "no-cache",
});

// The API's document is written by starting the program; no data is touched then.
if (Assembly.GetEntryAssembly()?.GetName().Name != "GetDocument.Insider")
{
    var catalog = app.Services.GetRequiredService<Catalog>();
    catalog.Open();
    app.Services.GetRequiredService<EngineSwitch>().Open();
    app.Services.GetRequiredService<SnippetSearch>().Open();
    app.Services.GetRequiredService<FiringLog>().Open();
    app.Services.GetRequiredService<Surroundings>().Open();
    if (options.Demo) DemoData.LoadOnce(catalog, app.Services.GetRequiredService<SettingStore>(), app.Services.GetRequiredService<MediaStore>());
}

app.Run();

/// <summary>The program; visible so that tests can host it.</summary>
public partial class Program;
