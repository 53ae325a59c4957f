import { createSystem, defaultConfig, defineConfig } from '@chakra-ui/react';

/** Neutral greys around pictures, one warm accent. */
export const system = createSystem(
  defaultConfig,
  defineConfig({
    globalCss: { 'html, body': { bg: '#262626', color: '#f1f0ef' } },
    theme: {
      tokens: {
        fonts: {
          body: { value: "'Instrument Sans Variable', sans-serif" },
          heading: { value: "'Bricolage Grotesque Variable', sans-serif" },
        },
        colors: {
          dye: {
            50: { value: '#fdefe9' },
            100: { value: '#f8d3c4' },
            200: { value: '#f1b099' },
            300: { value: '#ea8d6d' },
            400: { value: '#e5774f' },
            500: { value: '#e0633a' },
            600: { value: '#e0633a' },
            700: { value: '#b84c28' },
            800: { value: '#8c391d' },
            900: { value: '#5f2713' },
            950: { value: '#3a180b' },
          },
        },
      },
      semanticTokens: {
        colors: {
          dye: {
            solid: { value: '{colors.dye.500}' },
            contrast: { value: '#1d0d06' },
            fg: { value: '{colors.dye.300}' },
            muted: { value: '#4a2c20' },
            subtle: { value: '#3a2820' },
            emphasized: { value: '{colors.dye.400}' },
            focusRing: { value: '{colors.dye.400}' },
          },
          gray: { muted: { value: '#565656' }, border: { value: '#565656' } },
          bg: {
            DEFAULT: { value: '#262626' },
            panel: { value: '#2f2f2f' },
            subtle: { value: '#2b2b2b' },
            muted: { value: '#383838' },
            emphasized: { value: '#444' },
            /** what things lie in: drawings, fields, lines between panels */
            well: { value: '#1d1d1d' },
            /** the grey round a picture */
            surround: { value: '#6b6b6b' },
          },
          fg: {
            DEFAULT: { value: '#f1f0ef' },
            muted: { value: '#bdbbb8' },
            subtle: { value: '#a3a19e' },
            error: { value: '#f0a082' },
            warning: { value: '#e2b65c' },
          },
          border: { DEFAULT: { value: '#444' }, muted: { value: '#3a3a3a' }, subtle: { value: '#333' } },
        },
      },
    },
  }),
);
