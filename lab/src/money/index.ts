export { isDead } from './against-supplier';
export * from './books';
export * from './keep-books';
export * from './lot-books';
export { typedBooks } from './typed-books';
