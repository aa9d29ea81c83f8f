using System.Collections.Concurrent;
using System.Data.Common;
using System.Threading;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>Keeps the queries that requests send to the database; what the server does by itself meanwhile is not among them.</summary>
internal sealed class HeardStatements : DbCommandInterceptor
{
    // Goes with a request into the server, where that is told to take it over.
    private readonly AsyncLocal<ConcurrentQueue<NpgsqlCommand>?> heard = new();

    public async Task<IReadOnlyList<NpgsqlCommand>> DuringAsync(Func<Task> act)
    {
        var all = new ConcurrentQueue<NpgsqlCommand>();
        heard.Value = all;
        await act();
        return [.. all];
    }

    public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result,
        CancellationToken cancellationToken = default
    )
    {
        if (heard.Value is { } all)
        {
            var copy = ((NpgsqlCommand)command).Clone();
            copy.Transaction = null;
            all.Enqueue(copy);
        }

        return new(result);
    }
}
