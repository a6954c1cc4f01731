/** Stands for the package that keeps server modules out of a browser’s bundle. */
export {};
