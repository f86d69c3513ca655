declare const OF: unique symbol;

/** A value as JSON, as it is kept in a column; the type says what of. */
export type Json<T> = string & { readonly [OF]: T };

export const asJson = <T>(value: T): Json<T> => JSON.stringify(value) as Json<T>;
export const fromJson = <T>(json: Json<T>): T => JSON.parse(json) as T;
