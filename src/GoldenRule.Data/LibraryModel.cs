using GoldenRule.Core.Documents;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How the rest of the library stands in the database: its parts, sample readers, files.</summary>
internal static class LibraryModel
{
    public static void MapLibrary(this ModelBuilder builder)
    {
        builder.Entity<LibraryPart>(e =>
        {
            e.ToTable("library_parts");
            e.HasKey(p => p.Name);
        });
        builder.Entity<LibraryStamp>(e =>
        {
            e.ToTable("library_stamp");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.HasData(new LibraryStamp { Id = 1, Version = 1 });
        });
        builder.Entity<StoredReader>(e =>
        {
            e.ToTable("sample_readers");
            e.Property(r => r.Values)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<Dictionary<string, string>>(v));
            e.HasIndex(r => new { r.Position, r.Id });
        });
        builder.Entity<StoredFile>(e =>
        {
            e.ToTable("files");
            e.HasIndex(f => new { f.AddedAt, f.Id }).IsDescending(true, true);
        });
    }
}
