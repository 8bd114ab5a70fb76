using System.Net;
using System.Reflection;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using DashSprout.Documents;
using DashSprout.Server.Backups;
using DashSprout.Server.Behind;
using DashSprout.Server.Bodies;
using DashSprout.Server.Data;
using DashSprout.Server.Engine;
using DashSprout.Server.Exchange;
using DashSprout.Server.Finding;
using DashSprout.Server.History;
using DashSprout.Server.Hosting;
using DashSprout.Server.Keyboard;
using DashSprout.Server.Learning;
using DashSprout.Server.Libraries;
using DashSprout.Server.Live;
using DashSprout.Server.Media;
using DashSprout.Server.Mirrors;
using DashSprout.Server.Notices;
using DashSprout.Server.Packs;
using DashSprout.Server.Rehearsals;
using DashSprout.Server.Rows;
using DashSprout.Server.Safety;
using DashSprout.Server.Savings;
using DashSprout.Server.Settings;
using DashSprout.Server.Typing;
using DashSprout.Server.Wiring;
using DashSprout.Store.Data;
using DashSprout.Store.Features;
using DashSprout.Store.Files;
using DashSprout.Store.Items;
using Microsoft.AspNetCore.SignalR;
using Serilog;
using Serilog.Events;

var builder = WebApplication.CreateBuilder(args);
var options = StartOptions.Read(builder.Configuration);

// Requests are not logged: their addresses and bodies hold what people type.
builder.Services.AddSerilog(
    log =>
        log.MinimumLevel.Information()
            .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
            // A hub's own error log repeats what was sent; HubFaults says what is needed.
            .MinimumLevel.Override("Microsoft.AspNetCore.SignalR", LogEventLevel.Fatal)
            // Why it could not start is said in words.
            .Filter.ByExcluding(entry => entry.MessageTemplate.Text == "Hosting failed to start")
            .WriteTo.Console(formatProvider: System.Globalization.CultureInfo.InvariantCulture),
    preserveStaticLogger: true
);

builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.Limits.MaxRequestBodySize = 8 * 1024 * 1024;
    kestrel.Listen(IPAddress.Loopback, options.Port);
    if (System.Net.Sockets.Socket.OSSupportsIPv6)
        kestrel.Listen(IPAddress.IPv6Loopback, options.Port);
});

builder.Services.ConfigureHttpJsonOptions(json =>
{
    json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    json.SerializerOptions.RespectNullableAnnotations = true;
    json.SerializerOptions.RespectRequiredConstructorParameters = true;
    json.SerializerOptions.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
    json.SerializerOptions.TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { NullsInLists.Refuse } };
});
builder.Services.Configure<RouteHandlerOptions>(route => route.ThrowOnBadRequest = true);
builder.Services.AddProblemDetails(problems =>
    problems.CustomizeProblemDetails = context => Problems.Complete(context.ProblemDetails)
);
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
builder.Services.AddSingleton(services =>
    DataFolder.Open(
        options.DataFolder,
        $"Dash Sprout at http://localhost:{options.Port}",
        services.GetRequiredService<TimeProvider>().GetUtcNow(),
        DataKeys.In,
        checkBeside: true
    )
);
builder.Services.AddSingleton(services => services.GetRequiredService<DataFolder>().Database);
builder.Services.AddSingleton<ItemStore>();
builder.Services.AddSingleton<ChangeLog>();
builder.Services.AddSingleton<HistoryStore>();
builder.Services.AddSingleton<BackupStore>();
builder.Services.AddSingleton<SettingStore>();
builder.Services.AddSingleton<LibraryService>();
builder.Services.AddSingleton<ChangeTimes>();
builder.Services.AddSingleton<Tables>();
builder.Services.AddSingleton<EngineSwitch>();
builder.Services.AddSingleton<MediaStore>();
builder.Services.AddSingleton<RenderContextSource>();
builder.Services.AddSingleton<KeySets>();
builder.Services.AddSingleton<SafetyStore>();
builder.Services.AddSingleton<RotationStore>();
builder.Services.AddSingleton<LiveStore>();
builder.Services.AddSingleton<RecentAnswers>();
builder.Services.AddSingleton<HarbourService>();
builder.Services.AddSingleton<LiveValues>();
builder.Services.AddSingleton<SnippetSearch>();
builder.Services.AddSingleton<WordLists>();
builder.Services.AddSingleton<SafetyBoard>();
builder.Services.AddSingleton<Findings>();
builder.Services.AddSingleton<ImportDesk>();
builder.Services.AddSingleton<MirrorStore>();
builder.Services.AddSingleton<MirroredLibraries>();
builder.Services.AddSingleton<PackStore>();
builder.Services.AddSingleton<PackList>();
builder.Services.AddSingleton<UndoService>();
builder.Services.AddSingleton<FiringLog>();
builder.Services.AddSingleton<SearchCatchingUp>();
builder.Services.AddSingleton<DrillStore>();
builder.Services.AddSingleton<LearnedStore>();
builder.Services.AddSingleton<Learner>();
builder.Services.AddSingleton<SavingsStore>();
builder.Services.AddSingleton<SavingsLog>();
builder.Services.AddSingleton<HostWiring>();
builder.Services.AddSingleton(options);
builder.Services.AddSingleton<KeyboardChoices>();
builder.Services.AddSingleton<CompanionPage>();
builder.Services.AddSingleton<LinkedKeyboard>();
builder.Services.AddHostedService(services => services.GetRequiredService<LinkedKeyboard>());
builder.Services.AddSingleton<Housekeeping>();

// What is held of the data file, in the order in which it is opened and gives way to a backup.
builder.Services.AddHeldData<MirroredLibraries>();
builder.Services.AddHeldData<ImportDesk>();
builder.Services.AddHeldData<Learner>();
builder.Services.AddHeldData<SavingsLog>();
builder.Services.AddHeldData<FiringLog>();
builder.Services.AddHeldData<LiveValues>();
builder.Services.AddHeldData<KeyboardChoices>();
builder.Services.AddHeldData<EngineSwitch>();
builder.Services.AddHeldData<RenderContextSource>();
builder.Services.AddHeldData<WordLists>();
builder.Services.AddSingleton<DataSession>();

// What runs behind, all of it watched.
builder.Services.AddWorkBehind<Housekeeping>();
builder.Services.AddWorkBehind<MirroredLibraries>();
builder.Services.AddWorkBehind<SearchCatchingUp>();
builder.Services.AddWorkBehind<SafetyBoard>();
builder.Services.AddWorkBehind<LiveValues>();
builder.Services.AddWorkBehind<Learner>();
builder.Services.AddWorkBehind<FiringLog>();
builder.Services.AddWorkBehind<SavingsLog>();
builder.Services.AddSingleton<Supervisor>();
builder.Services.AddHostedService(services => services.GetRequiredService<Supervisor>());

var app = builder.Build();

// What a handler turned into a problem document is not logged: its words may be the user's.
app.UseOwnPageOnly();
app.UseExceptionHandler();
app.UseUtf8Only();
app.UseStatusCodePages();
app.UseStaticFiles(
    new StaticFileOptions
    {
        OnPrepareResponse = context =>
            context.Context.Response.Headers.CacheControl = context.Context.Request.Path.StartsWithSegments("/assets")
                ? "public, max-age=31536000, immutable"
                : "no-cache",
    }
);

app.UseRouting();
app.UseSizeLimits();

app.MapGet("/healthz", () => "ready").ExcludeFromDescription();
var api = app.MapGroup("/api");
api.MapLibraries();
api.MapRows();
api.MapMany();
api.MapSnippets();
api.MapLists();
api.MapHistory();
api.MapBackups();
api.MapNotices();
api.MapBehind();
api.MapExchange();
api.MapImports();
api.MapMirrors();
api.MapPacks();
api.MapSavings();
api.MapDrill();
api.MapLearning();
api.MapChances();
api.MapRehearsal();
api.MapEngine();
api.MapPreview();
api.MapSettings();
api.MapKeySets();
api.MapMedia();
api.MapSafety();
api.MapBoard();
api.MapFinder();
api.MapKeyboard();
api.MapLive();
api.MapFallback(() =>
        TypedResults.Problem(
            "There is nothing at this address.",
            statusCode: StatusCodes.Status404NotFound,
            title: "Not found"
        )
    )
    .ExcludeFromDescription();
app.MapHarbour();
app.MapHub<TypingHub>("/hub/typing");
app.MapHub<CompanionHub>("/hub/companion");
app.MapOpenApi("/api/openapi/{documentName}.json");
app.MapFallbackToFile(
    "index.html",
    new StaticFileOptions { OnPrepareResponse = context => context.Context.Response.Headers.CacheControl = "no-cache" }
);

// The API's document is written by starting the program; no data is touched then.
if (Assembly.GetEntryAssembly()?.GetName().Name != "GetDocument.Insider")
{
    try
    {
        await StartUp.Open(app.Services, options);
    }
    catch (UnusableDataException exception)
    {
        await Console.Error.WriteLineAsync(exception.Message);
        await app.DisposeAsync();
        return StartUp.CannotStart;
    }
}

try
{
    await app.RunAsync();
    return 0;
}
catch (IOException exception) when (exception.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException)
{
    await Console.Error.WriteLineAsync(
        $"Port {options.Port} is in use already. Stop what uses it, or choose another one with --port."
    );
    return StartUp.CannotStart;
}

/// <summary>The program; visible so that tests can host it.</summary>
public partial class Program;
