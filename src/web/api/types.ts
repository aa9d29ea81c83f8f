import type { components } from "./schema";

type S = components["schemas"];

export type Allowance = S["Allowance"];
export type BrandVariable = S["BrandVariable"];
export type CampaignType = S["CampaignTypeEntry"];
export type DeskAnswer = S["DeskAnswer"];
export type DeskBlock = S["DeskBlock"];
export type DeskField = S["DeskField"];
export type DeskRow = S["DeskRow"];
export type DeskZone = S["DeskZone"];
export type Edit = S["Edit"];
export type EmailEntry = S["EmailEntry"];
export type FieldValue = S["FieldValue"];
export type Finding = S["Finding"];
export type HouseStyle = S["HouseStyleAnswer"];
export type Measurement = S["Measurement"];
export type PictureEntry = S["PictureEntry"];
export type Reach = S["ReachAnswer"];
export type RichText = S["RichText"];
export type RowOffer = S["RowOffer"];
export type SentEdit = S["SentEdit"];
export type Session = S["SessionAnswer"];
export type Severity = S["Severity"];
export type StyleEntry = S["StyleEntry"];
export type TemplateEntry = S["TemplateEntry"];
export type VariableEntry = S["VariableEntry"];
