/** The house's materials as Vuetify themes, one by day and one by night, and how its parts look by default. */
import { createVuetify } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

const day = {
  paper: '#FBF8F2',
  bench: '#FFFFFF',
  stone1: '#F3EEE4',
  stone2: '#E6DECE',
  stone3: '#CFC5B1',
  stone5: '#857A66',
  ink9: '#1E2930',
  ink7: '#3A4850',
  ink5: '#5D6A71',
  verdigris: '#1D756F',
  verdigrisDark: '#125550',
  verdigrisTint: '#D7EBE7',
  madder: '#A63F27',
  madderTint: '#F4DED5',
  ochre: '#9A6A0C',
  ochreDark: '#7A5308',
  ochreTint: '#F6E8C8',
  lapis: '#2E4C8A',
  lapisTint: '#DEE5F3',
  lintel: '#1E2930',
  onLintel: '#F3EEE4',
  lintelQuiet: '#A9B4BA',
  gilt: '#D9B24A',
};

/** The same stone by lamplight: grounds turn to slate, pigments lighten until they carry on it. */
const night: typeof day = {
  paper: '#1B2329',
  bench: '#222C33',
  stone1: '#263139',
  stone2: '#34414A',
  stone3: '#4A5963',
  stone5: '#8B969C',
  ink9: '#F3EEE4',
  ink7: '#D3CDBF',
  ink5: '#A9B0B2',
  verdigris: '#5DB5AC',
  verdigrisDark: '#8ACFC7',
  verdigrisTint: '#21413F',
  madder: '#E58A70',
  madderTint: '#4A2B23',
  ochre: '#D9A943',
  ochreDark: '#E5C06E',
  ochreTint: '#43361A',
  lapis: '#93AEE6',
  lapisTint: '#2A3856',
  lintel: '#12181C',
  onLintel: '#F3EEE4',
  lintelQuiet: '#94A0A6',
  gilt: '#D9B24A',
};

function composeTheme(materials: typeof day, dark: boolean) {
  const onColour = dark ? '#12181C' : '#FFFFFF';
  return {
    dark,
    colors: {
      ...materials,
      background: materials.paper,
      surface: materials.bench,
      primary: materials.verdigris,
      secondary: materials.ink9,
      error: materials.madder,
      warning: materials.ochre,
      info: materials.lapis,
      success: materials.verdigris,
      'on-background': materials.ink9,
      'on-surface': materials.ink9,
      'on-primary': onColour,
      'on-secondary': dark ? '#12181C' : '#FBF8F2',
      'on-error': onColour,
    },
  };
}

export function createTheme(nonce: string) {
  const wantsNight = window.matchMedia('(prefers-color-scheme: dark)').matches;
  return createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    theme: {
      cspNonce: nonce,
      defaultTheme: wantsNight ? 'night' : 'day',
      themes: { day: composeTheme(day, false), night: composeTheme(night, true) },
    },
    defaults: {
      VBtn: { variant: 'outlined', rounded: 'sm', ripple: false, height: 32 },
      VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rounded: 'sm', color: 'lapis' },
      VTextarea: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rounded: 'sm', color: 'lapis' },
      VAutocomplete: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rounded: 'sm', color: 'lapis' },
      VMenu: { offset: 4 },
      VDialog: { width: '100%', maxWidth: 560 },
      VTooltip: { openDelay: 500 },
    },
  });
}
