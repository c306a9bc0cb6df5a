export * from './number';
export * from './parse';
export * from './quantities';
export * from './scale-finder';
export * from './units';
