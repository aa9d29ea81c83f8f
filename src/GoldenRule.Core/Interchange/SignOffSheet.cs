using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Text;
using GoldenRule.Core.Checking;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Interchange;

/// <summary>What the sheet says beside the email.</summary>
/// <param name="State">In words.</param>
/// <param name="Sha256">Of index.html in the email's bundle, which is the same wherever it is handed out.</param>
/// <param name="Printed">When, and by whom.</param>
/// <param name="HouseStyles">The house style it is dressed in and those that lies on, the outermost first, each with the number
/// of its release.</param>
public sealed record SignOffTerms(string State, string Sha256, string Printed, ImmutableArray<(string Name, int Release)> HouseStyles);

/// <summary>
/// The sheet that an email is signed off on, as a page to print: what the inbox shows, what it is made from, what the
/// checks found, and the email on a desktop and on a phone, side by side on a page as long as they are.
/// </summary>
public static class SignOffSheet
{
    private const int Phone = 375;

    /// <summary>CSS pixels: PDF knows no longer page (14,400 points; ISO 32000-1, annex C).</summary>
    private const int Longest = 19_000;

    public static string Write(CompiledEmail email, ImmutableArray<Finding> findings, SignOffTerms terms)
    {
        var (source, details, width) = (email.Source, email.Source.Email.Details, email.Context.Theme.Width);
        var sheet = new StringBuilder();
        sheet.Append(
            CultureInfo.InvariantCulture,
            $$"""
            <!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>{{Text(source.Email.Name)}}</title><style>
            @page{size:A4;margin:18mm 16mm}
            body{margin:0;font:14px/1.5 sans-serif;color:#1d2321}h1{font-size:24px;margin:0 0 4px}
            h2{font-size:16px;margin:24px 0 6px;border-bottom:1px solid #b9b3a4;padding-bottom:3px}
            table{border-collapse:collapse;width:100%}th{text-align:left;font-weight:600;padding:3px 12px 3px 0;
            vertical-align:top;width:120px}
            td{padding:3px 12px 3px 0;vertical-align:top}
            tr{break-inside:avoid}.soft{color:#59605d}code{font-size:11px;overflow-wrap:anywhere}
            .sign td{height:40px;border-bottom:1px solid #1d2321}
            .proofs{page:proofs;break-before:page;display:flex;gap:28px;align-items:flex-start;padding:24px;width:{{width + Phone + 28}}px}
            figure{margin:0}figcaption{font-size:12px;margin-bottom:6px}iframe{border:1px solid #b9b3a4;display:block}
            </style></head><body><h1>{{Text(source.Email.Name)}}</h1><p class="soft">{{Text(terms.State)}}. {{Text(terms.Printed)}}</p>
            <h2>In the inbox</h2><table>
            """
        );
        Row(sheet, "Sender", $"{details.SenderName} <{details.SenderAddress}>");
        Row(sheet, "Subject", details.Subject);
        Row(sheet, "Preheader", details.Preheader);
        if (details.SendDay.Length > 0)
        {
            Row(sheet, "Goes out", details.SendDay);
        }

        foreach (var file in source.Email.Attachments)
        {
            Row(sheet, "Attached", $"{file.Name}, {file.Bytes / 1024:N0} KB");
        }

        sheet.Append("</table><h2>Made from</h2><table>");
        Row(sheet, "Template", $"{source.Template.Name}, release {source.Email.TemplateRelease}");
        foreach (var (name, release) in terms.HouseStyles)
        {
            Row(sheet, "House style", $"{name}, release {release}");
        }

        foreach (var row in source.Rows)
        {
            Row(sheet, "Row", Made(row));
        }

        sheet.Append(
            CultureInfo.InvariantCulture,
            $"</table><h2>{(findings.IsEmpty ? "The checks found nothing" : $"What the checks found: {findings.Length}")}</h2><table>"
        );
        foreach (var finding in findings)
        {
            var place = source.Rows.FirstOrDefault(r => r.Id == finding.Place.Row)?.Name;
            var measured = finding.Evidence is { } evidence ? $" <span class=\"soft\">{Text(evidence)}</span>" : "";
            sheet.Append(
                CultureInfo.InvariantCulture,
                $"<tr><th>{finding.Severity}</th><td>{Text(finding.Message)}{measured}</td>"
                    + $"<td class=\"soft\">{Text(place ?? "")}</td></tr>"
            );
        }

        sheet.Append(
            CultureInfo.InvariantCulture,
            $"""
            </table><h2>Signed off</h2><table class="sign"><tr><th>Name</th><td></td><th>Day</th><td></td></tr></table>
            <p class="soft">{email.HtmlBytes / 1024.0:0.0} KB of HTML.
            SHA-256 of index.html in its bundle: <code>{terms.Sha256}</code></p><div class="proofs">
            """
        );
        var html = email.HtmlText();
        foreach (var (label, wide) in new[] { ("Desktop", width), ("Phone", Phone) })
        {
            // No script runs in there; this page alone measures how long it is.
            sheet.Append(
                CultureInfo.InvariantCulture,
                $"<figure><figcaption>{label}, {wide} px</figcaption><iframe sandbox=\"allow-same-origin\" "
                    + $"scrolling=\"no\" width=\"{wide}\" height=\"600\" srcdoc=\"{Text(html)}\"></iframe></figure>"
            );
        }

        return sheet
            .Append(
                CultureInfo.InvariantCulture,
                $$"""
                </div><style id="long"></style><script>
                addEventListener("load", () => {
                  for (const frame of document.querySelectorAll("iframe"))
                    frame.height = Math.min({{Longest}} - 200, frame.contentDocument.documentElement.scrollHeight);
                  const proofs = document.querySelector(".proofs");
                  const tall = Math.min({{Longest}}, proofs.scrollHeight + 48);
                  document.getElementById("long").textContent = `@page proofs{size:${proofs.scrollWidth + 48}px ${tall}px;margin:0}`;
                });
                </script></body></html>
                """
            )
            .ToString();
    }

    private static string Made(ResolvedRow row) =>
        row.Source switch
        {
            { IsOwn: false } by => $"{row.Name}: \"{by.Master.Name}\", release {by.Placed.Release}",
            { Placed.Master: not null } => $"{row.Name}: detached",
            _ => $"{row.Name}: built here",
        };

    private static void Row(StringBuilder sheet, string label, string text) =>
        sheet.Append(CultureInfo.InvariantCulture, $"<tr><th>{label}</th><td>{Text(text)}</td></tr>");

    private static string Text(string text) => WebUtility.HtmlEncode(text);
}
