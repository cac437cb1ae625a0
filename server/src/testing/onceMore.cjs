/* global jest */
// What fails once and holds at once again is written out with why it failed.
jest.retryTimes(1, { logErrorsBeforeRetry: true, retryImmediately: true });
