export * from './errors.ts';
export * from './schemas.ts';
export * from './views.ts';
export * from './going.ts';
