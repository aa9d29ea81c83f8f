using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.People;

public enum FirstStepKey
{
    AddCampaignTypes,
    ReleaseHouseStyle,
    MakeRow,
    BuildTemplate,
    PlanCoverage,
    SetChecks,
    StartEmail,
    FillEmail,
    SendNextIssue,
    ReadFindings,
}

/// <summary>One of the first things to do here.</summary>
/// <param name="Done">For leads and designers by anyone: the library is everyone's. For authors by themselves.</param>
public sealed record FirstStep(FirstStepKey Key, bool Done);

/// <summary>What someone new does first, by their role, and what of it is done.</summary>
public static class FirstSteps
{
    public static void MapFirstSteps(this IEndpointRouteBuilder api) =>
        api.MapGet("/first-steps", ListAsync).WithTags("People").WithName("listFirstSteps");

    private static async Task<ImmutableArray<FirstStep>> ListAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        var person = user.Person();
        if (person.Is(Role.Lead))
        {
            var snapshot = await library.GetAsync(db, cancel);
            return
            [
                new(FirstStepKey.AddCampaignTypes, !snapshot.Plan.CampaignTypes.IsEmpty),
                new(FirstStepKey.ReleaseHouseStyle, !snapshot.Styles.All.IsEmpty),
                new(FirstStepKey.MakeRow, !snapshot.Releases.Rows.IsEmpty),
                new(FirstStepKey.BuildTemplate, !snapshot.Releases.Templates.IsEmpty),
                new(FirstStepKey.PlanCoverage, await db.CoverageNeeds.AnyAsync(cancel)),
                new(FirstStepKey.SetChecks, await db.CheckPolicies.AnyAsync(p => p.Revision > 0, cancel)),
            ];
        }

        if (person.IsAnywhere(Role.Designer))
        {
            return
            [
                new(FirstStepKey.MakeRow, await MadeAsync(DocumentKind.Row)),
                new(FirstStepKey.BuildTemplate, await MadeAsync(DocumentKind.Template)),
                new(FirstStepKey.StartEmail, await MadeAsync(DocumentKind.Email)),
            ];
        }

        if (person.IsAnywhere(Role.Author))
        {
            var own = db.Documents.Where(d => d.Kind == DocumentKind.Email && d.CreatedBy == person.Id);
            return
            [
                new(FirstStepKey.StartEmail, await own.AnyAsync(cancel)),
                new(FirstStepKey.FillEmail, await own.AnyAsync(d => d.Revision > 0, cancel)),
                new(FirstStepKey.SendNextIssue, await own.CountAsync(cancel) > 1),
            ];
        }

        return [new(FirstStepKey.ReadFindings, false)];

        Task<bool> MadeAsync(DocumentKind kind) => db.Documents.AnyAsync(d => d.Kind == kind && d.CreatedBy == person.Id, cancel);
    }
}
