import { theme as antd, type ThemeConfig } from 'antd';

/** Three neutral surrounds for judging colour; L* of the picture's surround. Everything is grey: R = G = B. */
export const SURROUNDS = {
  dim: {
    label: 'Dim',
    surround: '#303030',
    base: '#262626',
    panel: '#2c2c2c',
    raised: '#383838',
    line: '#484848',
    text: '#e2e2e2',
    quiet: '#a8a8a8',
    active: '#d6d6d6',
    onActive: '#161616',
    dark: true,
  },
  mid: {
    label: 'Mid',
    surround: '#777777',
    base: '#5c5c5c',
    panel: '#636363',
    raised: '#6e6e6e',
    line: '#858585',
    text: '#ffffff',
    quiet: '#ececec',
    active: '#f0f0f0',
    onActive: '#161616',
    dark: true,
  },
  bright: {
    label: 'Bright',
    surround: '#c6c6c6',
    base: '#d8d8d8',
    panel: '#e0e0e0',
    raised: '#ededed',
    line: '#b4b4b4',
    text: '#1c1c1c',
    quiet: '#4a4a4a',
    active: '#2a2a2a',
    onActive: '#f4f4f4',
    dark: false,
  },
} as const;
export type Surround = keyof typeof SURROUNDS;

export function themeOf(name: Surround): ThemeConfig {
  const s = SURROUNDS[name];
  return {
    algorithm: [s.dark ? antd.darkAlgorithm : antd.defaultAlgorithm, antd.compactAlgorithm],
    token: {
      colorPrimary: s.active,
      colorInfo: s.active,
      colorSuccess: s.quiet,
      colorWarning: s.quiet,
      colorError: s.text,
      colorLink: s.text,
      colorTextBase: s.text,
      colorTextSecondary: s.quiet,
      colorTextTertiary: s.quiet,
      colorTextDescription: s.quiet,
      colorTextPlaceholder: s.quiet,
      colorBgBase: s.panel,
      colorBgContainer: s.raised,
      colorBgElevated: s.raised,
      colorBgLayout: s.base,
      colorBorder: s.line,
      colorBorderSecondary: s.line,
      colorTextLightSolid: s.onActive,
      colorBgSpotlight: s.active,
      controlHeight: 28,
      borderRadius: 6,
      fontSize: 13,
      fontFamily: "'Figtree Variable', system-ui, sans-serif",
      fontFamilyCode: "'JetBrains Mono Variable', ui-monospace, monospace",
      // nothing fades: a colour half-way between two states is no colour anyone chose, and a hand should not wait
      motion: false,
      motionDurationFast: '0s',
      motionDurationMid: '0s',
      motionDurationSlow: '0s',
      boxShadow: 'none',
      boxShadowSecondary: `0 0 0 1px ${s.line}`,
    },
    components: {
      Segmented: { itemSelectedBg: s.active, itemSelectedColor: s.onActive, trackBg: s.base, itemColor: s.quiet },
      Button: { primaryColor: s.onActive, primaryShadow: 'none', defaultShadow: 'none' },
      Table: { headerBg: s.panel, rowHoverBg: s.raised },
      Slider: { trackBg: s.quiet, trackHoverBg: s.active, handleColor: s.active, railBg: s.line },
    },
  };
}
