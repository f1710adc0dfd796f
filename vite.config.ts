import { defineConfig } from 'vite'

const LOADING =
  /src\/(core\/text\/(?!edits)|core\/(secret|layers|resolve)\/|core\/definition\/(?!json)|core\/envfile\/(?!document|edit|quote)|core\/problems\/(catalogue\/(entry|envfile|references|values|files|definition|index)\.ts|problem|report|settings-error)|node\/(?!index|manifest|preload|own-cache)[a-z-]+\.ts|node\/flags\/|node\/writing\/replace-file\.ts|core\/page\/payload\.ts|core\/derive\/words\.ts)/

/** Builds the library and the command into `dist`; the plugin and what runs in pages are built by themselves. Types are written by the compiler, see `scripts/build.mjs`. */
export default defineConfig({
  plugins: [
    {
      // The functions of `setting` stay a module of their own: a namespace that is built into another file can't be shaken.
      name: 'setting-apart',
      enforce: 'pre',
      resolveId: (id, importer) =>
        id === './definition/makers.ts' && importer?.endsWith('/core/index.ts')
          ? { id: './setting.js', external: 'relative' as never }
          : null,
    },
  ],
  // No .env file is read by the build.
  envDir: false,
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: true,
    // Readable where an error points into it, but without comments: the types carry them, and text costs time to load.
    minify: false,
    ssr: true,
    rolldownOptions: {
      input: {
        index: 'src/core/index.ts',
        node: 'src/node/index.ts',
        preload: 'src/node/preload.ts',
        bundler: 'src/bundler/index.ts',
        testing: 'src/testing/index.ts',
        setting: 'src/core/definition/makers.ts',
        'cli/main': 'src/cli/main.ts',
      },
      external: [
        /^node:/,
        /^mappa(\/|$)/,
        'commander',
        'jiti',
        '@inquirer/prompts',
        'fflate',
        '@eslint-community/regexpp',
      ],
      output: {
        format: 'es',
        entryFileNames: '[name].js',
        chunkFileNames: 'chunks/[name].js',
        comments: { annotation: true, legal: false, jsdoc: false },
        // What every program needs that loads its settings lies in one file, since Node takes longer to open a file than to
        // read it. The rest lies apart, so that a bundler leaves it out of such programs.
        codeSplitting: { groups: [{ name: 'loading', test: LOADING }] },
      },
    },
  },
})
