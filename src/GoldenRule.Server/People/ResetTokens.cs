using GoldenRule.Data;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace GoldenRule.Server.People;

/// <summary>Links to a new password work for an hour, those of invitations for a day.</summary>
public sealed class ResetTokens(
    IDataProtectionProvider protection,
    IOptions<ResetTokenOptions> options,
    ILogger<DataProtectorTokenProvider<Account>> log
) : DataProtectorTokenProvider<Account>(protection, options, log)
{
    /// <summary>What Identity knows it by.</summary>
    public new const string Name = "ResetTokens";
}

public sealed class ResetTokenOptions : DataProtectionTokenProviderOptions
{
    public ResetTokenOptions()
    {
        (Name, TokenLifespan) = (ResetTokens.Name, TimeSpan.FromHours(1));
    }
}
