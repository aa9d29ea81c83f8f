using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using GoldenRule.Core.Audiences;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Pictures;
using GoldenRule.Server.Returns;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Demo;

/// <summary>
/// Fills an empty database from a folder of open-format files: people, campaign types, pictures, and documents as
/// the project stores them. In those files "picture:NAME" stands for the hash of a picture file of that name.
/// </summary>
public sealed partial class DemoLoader(
    GoldenRuleDb db,
    UserManager<Account> accounts,
    TimeProvider clock,
    PictureIntake intake,
    PublicAddress address,
    IServiceProvider services
)
{
    private sealed record DemoPerson(Guid Id, string Name, string Email, string Password, ImmutableArray<Role> Roles);

    /// <param name="Members">Names of people, with the roles they have in it.</param>
    private sealed record DemoTeam(
        Guid Id,
        string Name,
        ForOthers ForOthers,
        ImmutableSortedDictionary<string, ImmutableArray<Role>> Members
    );

    /// <param name="Teams">Their names.</param>
    private sealed record DemoCampaignType(
        string Key,
        string Name,
        ImmutableArray<string> Teams,
        bool Transactional,
        ReviewRule? ReviewRule = null
    );

    private sealed record DemoPicture(string File, string Name, string Alt, ImmutableArray<string> Tags);

    private sealed record DemoDocument(
        Guid Id,
        DocumentKind Kind,
        string Author,
        EmailState State,
        string Note,
        int HoursAgo,
        JsonElement Body
    );

    private readonly List<DemoReview> reviews = [];

    private readonly Dictionary<string, string> pictures = new(StringComparer.Ordinal);

    public async Task LoadAsync(string folder, CancellationToken cancel)
    {
        if (await db.Users.AnyAsync(cancel))
        {
            return;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var people = await AddPeopleAsync(Read<ImmutableArray<DemoPerson>>(Path.Combine(folder, "people.json")));
        AddTeams(folder, people);
        (await db.Organisations.SingleAsync(cancel)).Name = "Larkfell Heritage Railway";
        db.CoverageNeeds.AddRange(Read<ImmutableArray<CoverageNeed>>(Path.Combine(folder, "coverage.json")));
        (await db.CheckPolicies.SingleAsync(cancel)).Body = DocumentJson.Write(
            Read<CheckPolicy>(Path.Combine(folder, "check-policy.json"))
        );
        await AddAudiencesAsync(folder, cancel);
        await AddPicturesAsync(folder, cancel);
        foreach (
            var file in Directory
                .EnumerateFiles(folder, "*.json", SearchOption.AllDirectories)
                .Where(f => Path.GetDirectoryName(f) != folder.TrimEnd('/'))
                .OrderBy(f => f, StringComparer.Ordinal)
        )
        {
            AddDocument(file, people);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        foreach (var review in reviews)
        {
            await DemoReview.PlayAsync(review, services, clock, cancel);
        }

        await DemoSending.AddAsync(db, services.GetRequiredService<ReaderReturns>(), cancel);
    }

    private async Task<Dictionary<string, Guid>> AddPeopleAsync(ImmutableArray<DemoPerson> people)
    {
        foreach (var person in people)
        {
            var account = new Account
            {
                Id = person.Id,
                Name = person.Name,
                UserName = person.Email,
                Email = person.Email,
                EmailConfirmed = true,
                JoinedAt = clock.GetUtcNow().UtcDateTime,
            };
            Expect(await accounts.CreateAsync(account, person.Password));
            Expect(await accounts.AddToRolesAsync(account, person.Roles.Select(r => r.ToString())));
        }

        return people.ToDictionary(p => p.Name, p => p.Id, StringComparer.Ordinal);
    }

    private void AddTeams(string folder, Dictionary<string, Guid> people)
    {
        var teams = Read<ImmutableArray<DemoTeam>>(Path.Combine(folder, "teams.json"));
        db.Teams.AddRange(
            teams.Select(
                (t, i) =>
                    new StoredTeam
                    {
                        Id = t.Id,
                        Name = t.Name,
                        ForOthers = t.ForOthers,
                        Position = i,
                    }
            )
        );
        db.TeamMembers.AddRange(
            from team in teams
            from member in team.Members
            from role in member.Value
            select new TeamMember
            {
                TeamId = team.Id,
                PersonId = people[member.Key],
                Role = role,
            }
        );
        db.CampaignTypes.AddRange(
            Read<ImmutableArray<DemoCampaignType>>(Path.Combine(folder, "campaign-types.json"))
                .Select(
                    (t, i) =>
                        new CampaignType
                        {
                            Key = t.Key,
                            Name = t.Name,
                            Teams = [.. teams.Where(team => t.Teams.Contains(team.Name)).Select(team => team.Id)],
                            Transactional = t.Transactional,
                            ReviewRule = t.ReviewRule ?? ReviewRule.Usual,
                            Position = i,
                        }
                )
        );
    }

    // What there is one of was made by a migration.
    private async Task AddAudiencesAsync(string folder, CancellationToken cancel)
    {
        var plan = AudiencePlan.Check(Read<AudiencePlan>(Path.Combine(folder, "audiences.json")));
        var made = await db.Documents.AsNoTracking().SingleAsync(d => d.Kind == DocumentKind.Audiences, cancel);
        await db.Documents.Where(d => d.Id == made.Id).ExecuteDeleteAsync(cancel);
        var body = DocumentJson.Write(plan);
        db.Documents.Add(
            new StoredDocument
            {
                Id = made.Id,
                Kind = made.Kind,
                Name = plan.Name,
                Words = made.Words,
                Owner = made.Owner,
                CreatedBy = made.CreatedBy,
                CreatedAt = made.CreatedAt,
                ChangedAt = made.ChangedAt,
                ReferencesKnown = true,
                Origin = body,
                Head = body,
            }
        );
        db.SampleReaders.AddRange(
            Read<ImmutableArray<SampleReader>>(Path.Combine(folder, "sample-readers.json"))
                .Select(
                    (r, i) =>
                        new StoredReader
                        {
                            Id = r.Id,
                            Name = r.Name,
                            Values = new(r.Values, StringComparer.Ordinal),
                            Position = i + 1,
                        }
                )
        );
    }

    private async Task AddPicturesAsync(string folder, CancellationToken cancel)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        // Side by side: each is drawn by a process of its own, and the first start waits for all of them.
        var drawn = await Task.WhenAll(
            Read<ImmutableArray<DemoPicture>>(Path.Combine(folder, "pictures.json"))
                .Select(async picture =>
                {
                    var file = await File.ReadAllBytesAsync(Path.Combine(folder, "pictures", picture.File), cancel);
                    return (picture, await intake.TakeAsync(file, picture.File, null, now, cancel));
                })
        );
        foreach (var (picture, taken) in drawn)
        {
            taken.Picture.Describe(picture.Name, picture.Alt, picture.Tags.IsDefault ? [] : picture.Tags);
            db.Pictures.Add(taken.Picture);
            db.PictureFiles.AddRange(taken.Files);
            pictures[picture.File] = taken.Picture.Id;
        }
    }

    private void AddDocument(string file, Dictionary<string, Guid> people)
    {
        var demo = Read<DemoDocument>(file);
        // Written once more in the project's own form, which also checks that it can be read.
        var body = StoredForm.Write(StoredForm.Read(demo.Kind, Body(demo)));
        var document = StoredForm.Read(demo.Kind, body);
        var at = clock.GetUtcNow().UtcDateTime.AddHours(-demo.HoursAgo);
        var stored = new StoredDocument
        {
            Id = demo.Id,
            Kind = demo.Kind,
            Name = document.Name,
            CampaignType = document switch
            {
                Template t => t.CampaignType,
                Email => demo.Body.GetProperty("campaignType").GetString(),
                _ => null,
            },
            // What has come further is asked about, decided and handed off once all of it is there.
            State = EmailState.Draft,
            Origin = body,
            Head = body,
            CreatedBy = people[demo.Author],
            Owner = people[demo.Author],
            CreatedAt = at,
            ChangedAt = at,
        };
        stored.UpdateIndexColumns(document);
        stored.AddReferences(document);
        db.Documents.Add(stored);
        if (demo is { Kind: DocumentKind.Email, State: not EmailState.Draft })
        {
            reviews.Add(new DemoReview(demo.Id, people[demo.Author], demo.State, demo.HoursAgo, address.OfServer()));
        }

        if (demo.Kind is not (DocumentKind.Email or DocumentKind.Snippet))
        {
            db.AddRelease(
                new StoredRelease
                {
                    DocumentId = demo.Id,
                    Number = 1,
                    Kind = demo.Kind,
                    Revision = 0,
                    Body = body,
                    Note = demo.Note,
                    AuthorId = people[demo.Author],
                    At = at,
                },
                document
            );
        }
    }

    // An email's campaign type stands in its file for the list alone: the email itself has it by its template.
    private string Body(DemoDocument demo)
    {
        var node = JsonNode.Parse(demo.Body.GetRawText())!.AsObject();
        if (demo.Kind == DocumentKind.Email)
        {
            node.Remove("campaignType");
        }

        var json = node.ToJsonString();
        foreach (var (file, hash) in pictures)
        {
            json = json.Replace($"\"picture:{file}\"", $"\"{hash}\"", StringComparison.Ordinal);
        }

        // "day:3" is the third day from now, so that a schedule is never over.
        return AheadOfNow()
            .Replace(json, found =>
                clock
                    .GetUtcNow()
                    .AddDays(int.Parse(found.Groups["days"].Value, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture))
                    .ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
            );
    }

    [GeneratedRegex(@"day:(?<days>-?\d{1,3})", RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant)]
    private static partial Regex AheadOfNow();

    private static T Read<T>(string path)
    {
        try
        {
            return JsonSerializer.Deserialize<T>(File.ReadAllText(path), DocumentJson.Options)!;
        }
        catch (Exception e) when (e is JsonException or StructureException)
        {
            throw new InvalidOperationException($"{path}: {e.Message}", e);
        }
    }

    private static void Expect(IdentityResult result)
    {
        if (!result.Succeeded)
        {
            throw new InvalidOperationException(string.Join(' ', result.Errors.Select(e => e.Description)));
        }
    }
}
