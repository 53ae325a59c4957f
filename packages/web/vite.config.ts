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

/** Style properties that nothing here is given: they are said of the side that a line of text begins or ends at, of one corner, of what lies behind… */
export const unused = [
  'divide[XY]|divideStyle|backdrop\\w+|ring\\w+|space[XY]\\w*|hideFrom|hideBelow|lineClamp|truncate|srOnly|debug|caretColor|accentColor',
  'blur|grayscale|sepia|dropShadow|hueRotate|saturate|gradient\\w+|background(Gradient|Attachment|Clip|Size|Position|Repeat|BlendMode)',
  'scroll(Margin|Snap)\\w*|scrollPadding(Top|Left|Right|Inline|Block)|scrollbar(Color|Gutter|Width)|border(Top|Bottom|Left|Right)\\w*Radius|border\\w*(Start|End)Radius|borderSpacing\\w*',
  'border(Block|Inline)(Start|End)(Style|Width)?|border(Block|Inline)(Width)?|border(Left|Right|Top)Style|border(BlockStart|BlockEnd|InlineEnd)Color',
  '(min|max)(Inline|Block)Size|inlineSize|blockSize|grid\\w*Gap|rowGap|columnGap|(skew|scale|rotate|translate)[XY]|(margin|padding)Block(Start|End)',
  'focusRing(Offset|Width|Style)|listStyle(Position|Image)|insetBlock(Start|End)|text(DecorationColor|Shadow|Indent)|animation(Delay|TimingFunction)',
].join('|');
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

/** Components that are not used are kept by the names that developers' tools are told of them. */
const leanRouter: Plugin = {
  name: 'lean-router',
  enforce: 'pre',
  transform: (code, id) => (/react-router\/dist\//.test(id) ? code.replace(/^\w+\.displayName = .*;$/gm, '') : null),
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
  plugins: [leanStyles, leanUtilities, leanAnatomies, leanRouter, leanSteps, leanScales, react()],
  resolve: {
    alias: [
      { find: '@dyepot/core', replacement: fileURLToPath(new URL('../core', import.meta.url)) },
      // its warnings for developers are left out
      { find: /^react-router$/, replacement: fileURLToPath(import.meta.resolve('react-router')).replace('/development/', '/production/') },
    ],
  },
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
              test: /d3-array|icons[\\/](trash|ellipsis|x)\.|icon-button|create-anatomy|kit[\\/](useFetched|LazyMenu|useKeptFocus|DyeStrip|Cell|Cells|Handle|oneStop|UndoRedo)|undoTakingOut|steps[\\/](greys|fitting|drawing\.)|view[\\/](useSizeOf|useZoomGestures|platePlace)|groundwork[\\/]balance/,
            },
            { name: 'charts', test: /node_modules[\\/]d3-(scale|shape|path|format)[\\/]/ },
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
