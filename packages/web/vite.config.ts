import react from '@vitejs/plugin-react';
import { fileURLToPath } from 'node:url';
import { defineConfig, type Plugin } from 'vite';

/** The styles of the controls that are used; the set comes with those of some sixty. A control used and not named here has none. */
const used = {
  recipes: { button: 'button', input: 'input', textarea: 'textarea', spinner: 'spinner', checkmark: 'checkmark' },
  'slot-recipes': { checkbox: 'checkbox', dialog: 'dialog', menu: 'menu', popover: 'popover', toast: 'toast' },
} as const;
const kept = {
  'tokens/colors': ['colors', ['transparent', 'current', 'black', 'white', 'whiteAlpha', 'blackAlpha', 'gray', 'red']],
  'semantic-tokens/colors': ['semanticColors', ['bg', 'fg', 'border', 'gray', 'red']],
  'layer-styles': ['layerStyles', ['disabled']],
} as const;
const leanStyles: Plugin = {
  name: 'lean-styles',
  enforce: 'pre',
  async load(id) {
    const set = /@chakra-ui\/react\/dist\/esm\/theme\/(tokens\/colors|semantic-tokens\/colors|layer-styles)\.js$/.exec(id)?.[1] as
      keyof typeof kept | undefined;
    if (set) {
      const [name, some] = kept[set],
        all = ((await import(id)) as Record<string, Record<string, unknown>>)[name]!;
      return `export const ${name} = ${JSON.stringify(Object.fromEntries(some.map((k) => [k, all[k]])))};`;
    }
    const file = /@chakra-ui\/react\/dist\/esm\/theme\/(recipes|slot-recipes)\.js$/.exec(id)?.[1] as keyof typeof used | undefined;
    if (!file) return null;
    const names = Object.keys(used[file]),
      ending = file === 'recipes' ? 'Recipe' : 'SlotRecipe';
    return [
      ...names.map((n) => `import { ${n}${ending} } from './recipes/${n}.js';`),
      `export const ${file === 'recipes' ? 'recipes' : 'slotRecipes'} = { ${names.map((n) => `${n}: ${n}${ending}`).join(', ')} };`,
    ].join('\n');
  },
};

/** Style properties that nothing here is given: dividers, rings, filters behind things, ways of scrolling, gradients by their parts. */
const unused =
  'divide\\w+|backdrop[A-Z]\\w+|ring\\w*|space[XY]\\w*|lineClamp|hueRotate|saturate|scroll\\w+|hideFrom|hideBelow|borderSpacing\\w*|gradient\\w+|backgroundGradient|rotate[XY]|debug';
const leanUtilities: Plugin = {
  name: 'lean-utilities',
  enforce: 'pre',
  transform: (code, id) =>
    /@chakra-ui\/react\/dist\/esm\/preset-base\.js$/.test(id)
      ? code.replace(new RegExp(`^ {4}(${unused}): \\{\\n[\\s\\S]*?^ {4}\\},?\\n`, 'gm'), '')
      : null,
};

/** The names of the parts of controls that are not used: making them changes nothing else, which the bundler cannot know. */
const leanAnatomies: Plugin = {
  name: 'lean-anatomies',
  enforce: 'pre',
  transform: (code, id) =>
    /@chakra-ui\/react\/dist\/esm\/anatomy\.js$/.test(id)
      ? code.replace(/^const (\w+) = (\w+(?:\$1\.extendWith|Anatomy)\([^;]*);/gm, 'const $1 = /* @__PURE__ */ (() => $2)();')
      : null,
};

/** What a step's declaration says for its page in the docs alone. */
const leanSteps: Plugin = {
  name: 'lean-steps',
  enforce: 'pre',
  transform: (code, id) =>
    /core\/src\/(steps|stock)\/.*index\.ts$/.test(id) ? code.replace(/^ {2}(note|atStrength):\s*(['"`]).*\2,$/gm, "  $1: '',") : null,
};

/** Charts scale numbers alone: what goes between colours, dates and texts is left out. */
const leanScales: Plugin = {
  name: 'lean-scales',
  enforce: 'pre',
  resolveId: (id, importer) => (id === 'd3-interpolate' && importer?.includes('d3-scale/') ? '\0numbers-between' : null),
  load: (id) =>
    id === '\0numbers-between'
      ? `export const interpolateNumber = (a, b) => ((a = +a), (b = +b), (t) => a * (1 - t) + b * t);
         export const interpolateRound = (a, b) => ((a = +a), (b = +b), (t) => Math.round(a * (1 - t) + b * t));
         export const interpolate = interpolateNumber;
         export const piecewise = () => { throw new Error('only numbers are scaled'); };`
      : null,
};

export default defineConfig({
  plugins: [leanStyles, leanUtilities, leanAnatomies, leanSteps, leanScales, react()],
  resolve: { alias: { '@dyepot/core': fileURLToPath(new URL('../core', import.meta.url)) } },
  worker: { format: 'es' },
  build: {
    outDir: '../../dist/web',
    emptyOutDir: true,
    // the server reads there which files a page is made of
    manifest: 'pages.json',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // what every page needs lies in one file: it is smaller so than in five
        codeSplitting: {
          groups: [
            {
              name: 'base',
              test: /node_modules[\\/](react|react-dom|scheduler|react-router|react-redux|redux|reselect|immer|@reduxjs|@emotion|stylis)[\\/]/,
            },
            // what is too small for a file of its own
            {
              name: 'bits',
              test: /d3-array|icons[\\/](trash|ellipsis|x)\.|icon-button|create-anatomy|kit[\\/](useFetched|DyeStrip|Cell|Cells|Handle|oneStop)|undoTakingOut|steps[\\/](greys|drawing\.)|view[\\/](useSizeOf|useZoomGestures|platePlace)|groundwork[\\/]balance/,
            },
            // small drawings of steps that many chains have none of
            {
              name: 'drawings',
              test: /steps[\\/](?!curve|grade|neutral|saturation|warmth)\w+[\\/]drawing\.tsx/,
            },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4780' } },
});
