import type { DataType, Model, ModelStatic } from 'sequelize';
import { DataTypes } from 'sequelize';

/** A column of a table: how it is stored, and, as `T`, what it holds. */
export interface Column<T> {
  readonly type: DataType;
  readonly primaryKey?: boolean;
  readonly autoIncrement?: boolean;
  /** Never there; it tells the compiler what the column holds. */
  readonly holds?: T;
}

/** The columns of a table by name. */
export type Columns = Readonly<Record<string, Column<unknown>>>;

export const line = (): Column<string> => ({ type: DataTypes.STRING });
export const text = (): Column<string> => ({ type: DataTypes.TEXT });
export const whole = (): Column<number> => ({ type: DataTypes.INTEGER });
/** Milliseconds since the epoch. */
export const moment = (): Column<number> => ({ type: DataTypes.BIGINT });
export const bytes = (): Column<Buffer> => ({ type: DataTypes.BLOB });
/** The same, or nothing. */
export const maybe = <T>(column: Column<T>): Column<T | null> => column;
/** Part of what a row is found by. */
export const part = <T>(column: Column<T>): Column<T> => ({ ...column, primaryKey: true });
/** The database's own number for a row, which it gives. Always named `key`. */
export const key = (): Column<number> => ({ ...part(whole()), autoIncrement: true });

/** A row as plain values. */
export type RowOf<C extends Columns> = {
  -readonly [Name in keyof C]: C[Name] extends Column<infer T> ? T : never;
};

/** What a row is made of: its own number comes by itself. */
type Given<C extends Columns> = Omit<RowOf<C>, 'key'> & { key?: number };

/** A table to read from and write to. */
export type Table<C extends Columns> = ModelStatic<Model<RowOf<C>, Given<C>> & RowOf<C>>;
