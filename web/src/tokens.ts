import { type ThemeConfig, theme } from 'antd';

/** Colours of both themes; the one place where they stand. */
export const colours = {
  light: {
    paper: '#FAF8F3',
    paper2: '#F2EEE4',
    sheet: '#FFFFFF',
    ink: '#1F2328',
    soft: '#5A6069',
    faint: '#706F67',
    hair: '#DFDACE',
    hair2: '#ECE8DE',
    rule: '#B8B0A0',
    bronze: '#7A5230',
    bronzeTint: '#F5EEE4',
    onBronze: '#FFFFFF',
    indigo: '#3B4A8C',
    indigoTint: '#ECEEF7',
    onIndigo: '#FFFFFF',
    moss: '#44702F',
    ochre: '#8A5408',
    ochreMark: '#A8690F',
    ochreTint: '#FAF0DC',
    brick: '#A3352B',
    monograms: ['#EFE5D3', '#E4E8D8', '#EADFE2', '#DFE6E8', '#F2E0D2', '#E6E3F0'],
    monogramInk: '#4A4034',
  },
  dark: {
    paper: '#191815',
    paper2: '#131210',
    sheet: '#201F1B',
    ink: '#ECE7DB',
    soft: '#ABA598',
    faint: '#989182',
    hair: '#37342D',
    hair2: '#2B2924',
    rule: '#5C574C',
    bronze: '#D3A673',
    bronzeTint: '#2F271D',
    onBronze: '#1E1710',
    indigo: '#A3AFF0',
    indigoTint: '#25283A',
    onIndigo: '#14162A',
    moss: '#93C27E',
    ochre: '#E3B15E',
    ochreMark: '#DFA94F',
    ochreTint: '#302817',
    brick: '#F0958A',
    monograms: ['#3A3327', '#32362A', '#3A2F33', '#2C3538', '#3D2F26', '#33313E'],
    monogramInk: '#DDD3C0',
  },
} as const;

export type Mode = keyof typeof colours;

export const sans = "'Source Sans 3 Variable', system-ui, sans-serif";
export const serif = "'Source Serif 4 Variable', Georgia, serif";

/** The component library in our colours, type and corners. */
export const themeOf = (mode: Mode): ThemeConfig => {
  const c = colours[mode];
  return {
    cssVar: { key: 'gremium' },
    hashed: false,
    algorithm: mode === 'dark' ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: c.bronze,
      colorLink: c.bronze,
      colorLinkHover: c.bronze,
      colorInfo: c.indigo,
      colorError: c.brick,
      colorWarning: c.ochre,
      colorSuccess: c.moss,
      colorText: c.ink,
      colorTextSecondary: c.soft,
      colorTextPlaceholder: c.soft,
      colorBgBase: c.sheet,
      colorBgContainer: c.sheet,
      colorBgElevated: c.sheet,
      colorBgLayout: c.paper,
      colorBorder: c.rule,
      colorBorderSecondary: c.hair,
      colorTextLightSolid: c.onBronze,
      // nothing moves on its own: quicker for those who work here all day
      motion: false,
      borderRadius: 2,
      borderRadiusLG: 2,
      borderRadiusSM: 2,
      fontFamily: sans,
      fontSize: 14,
      boxShadow: 'none',
      boxShadowSecondary: `0 0 0 1px ${c.rule}`,
      controlOutline: 'transparent',
    },
    components: {
      Input: { paddingInline: 6 },
      DatePicker: { paddingInline: 6 },
      Button: { primaryShadow: 'none', defaultShadow: 'none', fontWeight: 600 },
    },
  };
};

/** The same colours as custom properties for our own styles. */
export const customProperties = (mode: Mode): Record<string, string> => ({
  ...Object.fromEntries(
    Object.entries(colours[mode]).flatMap(([name, value]) =>
      typeof value === 'string' ? [[`--${name}`, value]] : [],
    ),
  ),
  '--serif': serif,
});
