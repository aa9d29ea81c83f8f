using System.Collections.Concurrent;
using System.Data.Common;
using System.Threading;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Npgsql;

namespace GoldenRule.Server.Tests;

/// <summary>Keeps the queries that a server sends to its database while it is asked to.</summary>
internal sealed class HeardStatements : DbCommandInterceptor
{
    private ConcurrentQueue<NpgsqlCommand>? heard;

    public async Task<IReadOnlyList<NpgsqlCommand>> DuringAsync(Func<Task> act)
    {
        heard = new();
        await act();
        var all = heard.ToList();
        heard = null;
        return all;
    }

    public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result,
        CancellationToken cancellationToken = default
    )
    {
        heard?.Enqueue(((NpgsqlCommand)command).Clone());
        return new(result);
    }
}
