using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How the log stands in the database.</summary>
internal static class LogModel
{
    public static void MapLog(this ModelBuilder builder)
    {
        builder.Entity<LogEntry>(e =>
        {
            e.ToTable("log_entries");
            e.HasKey(l => l.Sequence);
            e.Property(l => l.Kind).HasConversion<string>();
            e.Property(l => l.Before).HasColumnType("jsonb");
            e.Property(l => l.After).HasColumnType("jsonb");
            e.HasIndex(l => l.At);
            e.HasIndex(l => new { l.Kind, l.Sequence }).IsDescending(false, true);
            e.HasIndex(l => new { l.PersonId, l.Sequence }).IsDescending(false, true);
        });
        builder.Entity<LogSetting>(e =>
        {
            e.ToTable("log_settings");
            e.Property(s => s.Id).ValueGeneratedNever();
            e.HasData(new LogSetting());
        });
    }
}
