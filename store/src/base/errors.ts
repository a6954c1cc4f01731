import { UniqueConstraintError } from 'sequelize';

/** Whether the database refused a row because a value that must be its own exists already. */
export const isDuplicate = (error: unknown): boolean => error instanceof UniqueConstraintError;
