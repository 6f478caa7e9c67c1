import { theme as antd, type ThemeConfig } from 'antd';
import type { Surround } from '../view/roomSlice.ts';

/** Three neutral surrounds for judging colour; L* of the picture's surround. Everything is grey: R = G = B. */
export const SURROUNDS = {
  dim: {
    label: 'Dim',
    surround: '#303030',
    base: '#1f1f1f',
    panel: '#282828',
    raised: '#393939',
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
    raised: '#676767',
    line: '#858585',
    text: '#ffffff',
    quiet: '#f0f0f0',
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
} as const satisfies Record<Surround, unknown>;

/** Sizes of text in px, `step` times one larger: what is read, what is said beside it, headings, figures. */
export const typeOf = (step: number) => ({ text: 13 + step, small: 12 + step, heading: 15 + step, mono: 12.5 + step });

/** What the style sheet takes from here, so that there is one source of every grey and size. */
export function variablesOf(name: Surround, step: number): Record<`--${string}`, string> {
  const s = SURROUNDS[name];
  const type = typeOf(step);
  return {
    '--base': s.base,
    '--panel': s.panel,
    '--raised': s.raised,
    '--line': s.line,
    '--text': s.text,
    '--quiet': s.quiet,
    '--active': s.active,
    '--on-active': s.onActive,
    '--surround': s.surround,
    '--size': `${type.text}px`,
    '--size-small': `${type.small}px`,
    '--size-heading': `${type.heading}px`,
    '--size-mono': `${type.mono}px`,
  };
}

export function themeOf(name: Surround, step: number): ThemeConfig {
  const s = SURROUNDS[name];
  const type = typeOf(step);
  return {
    algorithm: s.dark ? antd.darkAlgorithm : antd.defaultAlgorithm,
    token: {
      colorPrimary: s.active,
      colorInfo: s.active,
      colorSuccess: s.quiet,
      colorWarning: s.quiet,
      colorError: s.text,
      colorLink: s.text,
      colorTextBase: s.text,
      // the algorithm's own is a veil of it, too faint on the lighter surfaces
      colorText: s.text,
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
      controlHeight: 28 + 2 * step,
      controlHeightSM: 24 + 2 * step,
      sizeStep: 3,
      borderRadius: 6,
      fontSize: type.text,
      fontSizeSM: type.small,
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
