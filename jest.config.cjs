const letThrough = [
  '@rneui',
  '@?react-native',
  'react-native-.*',
  'expo',
  'expo-.*',
  '@expo',
  '@back-again',
  'react-redux',
  '@reduxjs',
  'immer',
  'temporal-.*',
];
const transformIgnorePatterns = [`/node_modules/(?!(${letThrough.join('|')})(/|$))`];
/** Those with a server and its database: a moment in which the machine is busy elsewhere is no fault. */
const withServer = {
  setupFilesAfterEnv: ['<rootDir>/server/src/testing/onceMore.cjs'],
  globalSetup: '<rootDir>/server/src/testing/databaseUp.mjs',
  globalTeardown: '<rootDir>/server/src/testing/databaseDown.mjs',
};
const node = (name) => ({
  displayName: name,
  rootDir: __dirname,
  roots: [`<rootDir>/${name}/src`],
  testEnvironment: 'node',
  // What takes the whole machine, or long, is run by itself: `npm run check:cluster`, `check:soak`, `check:year`.
  testMatch: [process.env.ALONE ? '**/*.alone.ts' : '**/*.test.ts'],
  transform: { '\\.[cm]?[jt]sx?$': `${__dirname}/scripts/lib/transform.cjs` },
  transformIgnorePatterns,
});

module.exports = {
  // Server tests start a whole server and fill its database.
  testTimeout: 60_000,
  projects: [
    node('core'),
    node('contract'),
    { ...node('server'), ...withServer },
    { ...node('both'), ...withServer, roots: ['<rootDir>/both'] },
    {
      displayName: 'app',
      preset: 'jest-expo/web',
      rootDir: `${__dirname}/app`,
      testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}'],
      transformIgnorePatterns,
    },
  ],
};
