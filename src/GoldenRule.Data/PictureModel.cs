using GoldenRule.Core.Documents;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>How pictures and what is drawn of documents stand in the database.</summary>
internal static class PictureModel
{
    public static void MapPictures(this ModelBuilder builder)
    {
        builder.Entity<StoredPicture>(e =>
        {
            e.ToTable("pictures");
            e.Property(p => p.Smaller)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<List<PictureFile>>(v));
            e.Property(p => p.PhoneCrop)
                .HasColumnType("jsonb")
                .HasConversion(v => DocumentJson.Write(v), v => DocumentJson.Read<PictureFile>(v!));
            e.HasIndex(p => p.Words).HasMethod("gin").HasOperators("gin_trgm_ops");
            e.HasIndex(p => p.Tags).HasMethod("gin");
            e.HasIndex(p => new { p.AddedAt, p.Id }).IsDescending(true, true);
            e.HasOne<StoredPicture>().WithMany().HasForeignKey(p => p.ReplacedBy).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StoredPictureFile>(e =>
        {
            e.ToTable("picture_files");
            e.HasKey(f => f.Name);
        });
        builder.Entity<StoredThumbnail>(e =>
        {
            e.ToTable("thumbnails");
            e.HasIndex(t => t.MadeAt);
        });
    }
}
