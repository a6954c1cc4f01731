export * from './books';
export * from './keep-books';
