using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace GoldenRule.Data;

/// <summary>How documents, their edits and their releases stand in the database, and how they are found.</summary>
internal static class DocumentModel
{
    public static void MapDocuments(this ModelBuilder builder)
    {
        builder.HasPostgresExtension("pg_trgm");
        builder.Entity<StoredDocument>(e =>
        {
            e.ToTable("documents");
            e.Property(d => d.Kind).HasConversion<string>();
            e.Property(d => d.State).HasConversion<string>();
            e.HasIndex(d => d.TechnicalName)
                .IsUnique()
                .HasFilter("kind = 'Snippet'")
                .HasDatabaseName("ix_documents_snippets_by_technical_name");
            e.HasIndex(d => d.Words).HasMethod("gin").HasOperators("gin_trgm_ops");
            // Counting emails by where they stand looks at this alone, never at the documents.
            e.HasIndex(d => d.Id, "emails")
                .HasFilter("kind = 'Email'")
                .IncludeProperties(d => new { d.CampaignType, d.State })
                .HasDatabaseName("ix_documents_emails");
            e.HasIndex(d => d.Id, "references_unknown")
                .HasFilter("not references_known")
                .HasDatabaseName("ix_documents_references_unknown");
            // One for each way that the list of emails is narrowed; what else it is narrowed by is looked at within the index.
            Emails(
                    d => new
                    {
                        d.Retired,
                        d.CreatedBy,
                        d.ChangedAt,
                        d.Id,
                    },
                    "ix_documents_emails_by_author"
                )
                .IncludeProperties(d => new { d.CampaignType, d.State });
            Emails(
                    d => new
                    {
                        d.Retired,
                        d.CampaignType,
                        d.ChangedAt,
                        d.Id,
                    },
                    "ix_documents_emails_by_type"
                )
                .IncludeProperties(d => new { d.CreatedBy, d.State });
            Emails(
                    d => new
                    {
                        d.Retired,
                        d.State,
                        d.ChangedAt,
                        d.Id,
                    },
                    "ix_documents_emails_by_state"
                )
                .IncludeProperties(d => new { d.CreatedBy, d.CampaignType });
            IndexBuilder<StoredDocument> Emails(Expression<Func<StoredDocument, object?>> columns, string name) =>
                e.HasIndex(columns, name).HasFilter("kind = 'Email'").IsDescending(false, false, true, true).HasDatabaseName(name);
            e.HasMany(d => d.References).WithOne().HasForeignKey(r => r.DocumentId).OnDelete(DeleteBehavior.Cascade);
            e.Property(d => d.Origin).HasColumnType("jsonb");
            e.Property(d => d.Head).HasColumnType("jsonb");
            // Lists are paged by key: the newest change first, the id to tell equals apart.
            e.HasIndex(d => new
                {
                    d.Kind,
                    d.ChangedAt,
                    d.Id,
                })
                .IsDescending(false, true, true);
        });
        builder.Entity<StoredWords>(e =>
        {
            e.ToTable("email_words");
            e.HasKey(w => w.DocumentId);
            e.Property(w => w.Search).HasComputedColumnSql("to_tsvector(search_config(language), words)", stored: true);
            e.HasIndex(w => w.Search).HasMethod("gin");
            // Which languages there are is asked with every search.
            e.HasIndex(w => w.Language);
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(w => w.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<EmailBehind>(e =>
        {
            e.ToTable("emails_behind");
            e.HasKey(b => b.DocumentId);
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(b => b.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredReference>(e =>
        {
            e.ToTable("document_references");
            e.HasKey(r => new
            {
                r.DocumentId,
                r.Release,
                r.Kind,
                r.Key,
                r.TargetRelease,
                r.Place,
            });
            e.Property(r => r.Kind).HasConversion<string>();
            // Who refers to something is asked by what it is; whose references they are comes along without a look at the table.
            e.HasIndex(r => new
            {
                r.Kind,
                r.Key,
                r.TargetRelease,
                r.Release,
                r.DocumentId,
            });
        });
        builder.Entity<StoredEdit>(e =>
        {
            e.ToTable("edits");
            e.HasKey(x => new { x.DocumentId, x.Sequence });
            e.HasIndex(x => new { x.DocumentId, x.Id }).IsUnique();
            // What undo takes back.
            e.HasIndex(x => new { x.DocumentId, x.Step });
            e.Property(x => x.Body).HasColumnType("jsonb");
            e.Property(x => x.Inverse).HasColumnType("jsonb");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(x => x.DocumentId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StoredSnapshot>(e =>
        {
            e.ToTable("document_snapshots");
            e.HasKey(s => new { s.DocumentId, s.Sequence });
            e.Property(s => s.Body).HasColumnType("jsonb");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(s => s.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<StoredRelease>(e =>
        {
            e.ToTable("releases");
            e.HasKey(x => new { x.DocumentId, x.Number });
            e.Property(x => x.Kind).HasConversion<string>();
            e.Property(x => x.Body).HasColumnType("jsonb");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(x => x.DocumentId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<PlannedRelease>(e =>
        {
            e.ToTable("planned_releases");
            e.HasKey(p => p.DocumentId);
            e.Property(p => p.Kind).HasConversion<string>();
            e.HasIndex(p => p.At).HasFilter("problem = ''");
            e.HasOne<StoredDocument>().WithMany().HasForeignKey(p => p.DocumentId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}
