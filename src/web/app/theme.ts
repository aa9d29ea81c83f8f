import {
  type CSSVariablesResolver,
  createTheme,
  defaultVariantColorsResolver,
  type MantineColorsTuple,
  type VariantColorsResolver,
} from "@mantine/core";

// One ramp each: Mantine wants ten shades; the ones in use are named in global.css.
const ink: MantineColorsTuple = [
  "#f4f4f6",
  "#e3e4e9",
  "#c4c7d0",
  "#a3a7b4",
  "#868b9b",
  "#6f7586",
  "#5b6170",
  "#444a59",
  "#303646",
  "#1e2430",
];
const gold: MantineColorsTuple = [
  "#fbf4e4",
  "#f3e5c3",
  "#e9d299",
  "#dcbb68",
  "#cda546",
  "#bb8f2c",
  "#a9781c",
  "#8f6516",
  "#7a5510",
  "#5f410a",
];
const slate: MantineColorsTuple = [
  "#eef2f6",
  "#e6ecf2",
  "#c9d5e2",
  "#a5b8cd",
  "#809ab7",
  "#5f7d9f",
  "#4a6b8f",
  "#3a5a7d",
  "#2f4a68",
  "#243a52",
];
const vermilion: MantineColorsTuple = [
  "#fbeeea",
  "#f6d9d2",
  "#ecb5a8",
  "#e08f7d",
  "#d36c56",
  "#c65039",
  "#b23a22",
  "#9a301b",
  "#7f2716",
  "#631d10",
];

// Filled is ink on paper, in either scheme.
const variantColorResolver: VariantColorsResolver = (input) =>
  input.variant === "filled"
    ? { background: "var(--ink)", hover: "var(--soft)", color: "var(--paper)", border: "1px solid transparent" }
    : defaultVariantColorsResolver(input);

export const theme = createTheme({
  variantColorResolver,
  colors: { ink, gold, slate, vermilion },
  primaryColor: "ink",
  primaryShade: { light: 9, dark: 1 },
  autoContrast: true,
  fontFamily: "'Instrument Sans Variable', 'Helvetica Neue', Arial, sans-serif",
  headings: { fontFamily: "'Literata Variable', Georgia, serif", fontWeight: "600" },
  defaultRadius: 2,
  radius: { xs: "2px", sm: "2px", md: "3px", lg: "3px", xl: "3px" },
  fontSizes: { xs: "0.75rem", sm: "0.8125rem", md: "0.875rem", lg: "1rem", xl: "1.125rem" },
  shadows: {
    xs: "none",
    sm: "none",
    md: "0 2px 10px rgb(30 36 48 / 12%)",
    lg: "0 4px 18px rgb(30 36 48 / 14%)",
    xl: "0 8px 28px rgb(30 36 48 / 16%)",
  },
  cursorType: "pointer",
  focusRing: "auto",
  respectReducedMotion: true,
  components: {
    Button: { defaultProps: { size: "sm", fw: 600 } },
    InputWrapper: { defaultProps: { withAsterisk: false } },
    Checkbox: { defaultProps: { size: "xs", radius: 2, iconColor: "var(--sheet)" } },
    Radio: { defaultProps: { size: "xs", iconColor: "var(--sheet)" } },
    NumberInput: { defaultProps: { size: "xs", hideControls: true } },
    // What is chosen again stays; where nothing may be chosen, a select is "clearable".
    Select: { defaultProps: { allowDeselect: false } },
    NativeSelect: { defaultProps: { size: "xs" } },
    TextInput: { defaultProps: { size: "xs" } },
    Textarea: { defaultProps: { size: "xs" } },
    DateInput: { defaultProps: { size: "xs" } },
    TimeInput: { defaultProps: { size: "xs" } },
    Modal: { defaultProps: { centered: true, transitionProps: { duration: 0 }, overlayProps: { backgroundOpacity: 0.35 } } },
    Drawer: { defaultProps: { overlayProps: { backgroundOpacity: 0.25 } } },
    Menu: { defaultProps: { transitionProps: { duration: 0 }, shadow: "md" } },
    Popover: { defaultProps: { transitionProps: { duration: 0 }, shadow: "md" } },
    Tooltip: { defaultProps: { openDelay: 400, transitionProps: { duration: 0 } } },
  },
});

// The names are the same in both schemes; what they come to is in global.css.
const colours = {
  "--mantine-color-body": "var(--paper)",
  "--mantine-color-text": "var(--ink)",
  "--mantine-color-dimmed": "var(--soft)",
  "--mantine-color-default": "var(--sheet)",
  "--mantine-color-default-border": "var(--rule)",
  "--mantine-color-placeholder": "var(--soft)",
  "--mantine-color-error": "var(--vermilion)",
};

export const cssVariables: CSSVariablesResolver = () => ({
  variables: { "--mantine-line-height": "1.45" },
  light: colours,
  dark: colours,
});
