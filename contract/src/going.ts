// What both sides work out with: apart from the schemas, so that a screen without a form need not load them.
export * from './effects.ts';
export * from './refusals.ts';
export * from './placing.ts';
export * from './states.ts';
export * from './budget.ts';
