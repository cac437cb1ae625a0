const { createHash } = require('node:crypto');
const { transformSync, version } = require('esbuild');

/** Turns TypeScript and ES modules into what Jest runs in Node: nothing that Node itself can do is rewritten. */
const OPTIONS = { format: 'cjs', target: 'node20', sourcemap: 'inline', sourcesContent: false };
const LOADERS = { ts: 'ts', tsx: 'tsx', mjs: 'js', js: 'js', cjs: 'js' };

module.exports = {
  process(source, path) {
    const loader = LOADERS[path.split('.').pop()];
    return transformSync(source, {
      ...OPTIONS,
      loader,
      sourcefile: path,
      // Jest runs CommonJS, which knows no address of its own but its file name.
      define: { 'import.meta.url': '__importMetaUrl', 'import.meta.dirname': '__dirname' },
      banner: 'const __importMetaUrl = require("node:url").pathToFileURL(__filename).href;',
    });
  },
  getCacheKey: (source, path) =>
    createHash('sha256').update(`${version}\0${path}\0${source}`).digest('hex'),
};
