using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace GoldenRule.Data;

/// <summary>Why the database refused to store something.</summary>
public static class Faults
{
    /// <summary>Whether what was to be stored under a key or an id stands there already.</summary>
    public static bool IsTaken(this DbUpdateException fault) =>
        fault.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation };
}
