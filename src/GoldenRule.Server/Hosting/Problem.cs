using System.Globalization;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Hosting;

/// <summary>An answer that is an error: problem details by RFC 9457, with a type that stays the same.</summary>
public sealed class ProblemException(
    int status,
    string type,
    string title,
    string detail,
    IReadOnlyDictionary<string, object?>? more = null
) : Exception(detail)
{
    public ProblemDetails Details { get; } = Problems.Make(status, type, title, detail, more);

    public static ProblemException NotFound(string what) => new(404, "not-found", "Not found", what);

    public static ProblemException TooLarge(string detail) => new(413, "too-large", "The file is too large", detail);

    /// <summary>It may be done later: the queue of edits in the browser waits and sends it again.</summary>
    public static ProblemException TooMuch(string detail, int seconds) =>
        new(
            429,
            "too-often",
            "Too much at once",
            detail,
            new Dictionary<string, object?>(StringComparer.Ordinal) { ["retryAfter"] = seconds }
        );

    public static ProblemException TooCostly() =>
        new(
            422,
            "too-costly",
            "This takes the server too long",
            "What this asks for takes more of the server than one request may, so it was ended. Do it in several smaller steps."
        );

    public static ProblemException Invalid(string detail, string? piece = null) =>
        new(
            422,
            "invalid",
            "This cannot be done",
            detail,
            piece is null ? null : new Dictionary<string, object?>(StringComparer.Ordinal) { ["piece"] = piece }
        );

    /// <exception cref="ProblemException">It is not allowed: to nobody now (409), or not to whoever asks (403).</exception>
    public static void ThrowIfRefused(Decision decision)
    {
        if (decision is Decision.Refused refused)
        {
            throw refused.Rule == Rules.State
                ? new ProblemException(409, "state", "It is not the time for this", refused.Reason)
                : Refused(refused);
        }
    }

    public static ProblemException Refused(Decision.Refused refused) =>
        new(
            403,
            "refused",
            "Refused by a rule",
            refused.Reason,
            new Dictionary<string, object?>(StringComparer.Ordinal) { ["rule"] = refused.Rule, ["piece"] = refused.Piece }
        );
}

public static class Problems
{
    public const string Root = "/problems/";

    public static ProblemDetails Make(
        int status,
        string type,
        string title,
        string detail,
        IReadOnlyDictionary<string, object?>? more = null
    )
    {
        var problem = new ProblemDetails
        {
            Status = status,
            Type = Root + type,
            Title = title,
            Detail = detail,
        };
        foreach (var (key, value) in more ?? new Dictionary<string, object?>(StringComparer.Ordinal))
        {
            problem.Extensions[key] = value;
        }

        return problem;
    }
}

/// <summary>Turns every exception into problem details. What was not foreseen says nothing of the inside.</summary>
public sealed class ProblemHandler(ILogger<ProblemHandler> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext http, Exception exception, CancellationToken cancellationToken)
    {
        var problem = exception switch
        {
            ProblemException known => known.Details,
            StructureException structure => ProblemException.Invalid(structure.Message, structure.Piece).Details,
            DbUpdateException taken when taken.IsTaken() => Problems.Make(
                409,
                "conflict",
                "Done at the same moment",
                "The same was asked for twice at the same moment, and one of them was done. Ask again to see it."
            ),
            // A closed hierarchy without its "kind".
            NotSupportedException { Source: "System.Text.Json" } unnamed => Problems.Make(
                400,
                "bad-request",
                "The request cannot be read",
                Path(unnamed.Message)
            ),
            BadHttpRequestException bad => Problems.Make(
                bad.StatusCode,
                "bad-request",
                "The request cannot be read",
                Place(bad) is { } place && Innermost(bad) is var said && !said.Contains(place, StringComparison.Ordinal)
                    ? $"{said} (at {place})"
                    : Innermost(bad)
            ),
            _ => null,
        };
        if (problem is null)
        {
            log.LogError(exception, "{Method} {Path} failed", http.Request.Method, http.Request.Path);
            problem = Problems.Make(
                500,
                "fault",
                "Something went wrong here",
                "The server met a fault of its own; what you sent was not stored. Try again."
            );
        }

        problem.Instance = http.Request.Path;
        http.Response.StatusCode = problem.Status ?? 500;
        if (problem.Extensions.TryGetValue("retryAfter", out var seconds))
        {
            http.Response.Headers.RetryAfter = string.Create(CultureInfo.InvariantCulture, $"{seconds}");
        }

        await http.Response.WriteAsJsonAsync(problem, options: null, contentType: "application/problem+json", cancellationToken);
        return true;
    }

    private static string Path(string message) =>
        message.IndexOf("Path: ", StringComparison.Ordinal) is >= 0 and var at
            ? $"What stands at {message[(at + 6)..].Split(' ')[0]} does not say its kind."
            : "Something in it does not say its kind.";

    private static string Innermost(Exception exception) => exception.InnerException is { } inner ? Innermost(inner) : exception.Message;

    // Where in the JSON it is. Null: it is not about JSON.
    private static string? Place(Exception? exception) =>
        exception switch
        {
            null => null,
            JsonException { Path: { Length: > 1 } path } => path,
            _ => Place(exception.InnerException),
        };
}
