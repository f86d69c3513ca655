import Joi from "joi";

/**
 * Forms that say their type: what a value may be is written once, for the program that checks it and for the one that
 * is compiled. Joi does the checking; these are the pieces of which every file, edit and request is put together.
 * A field must be there unless it is `maybe`; values are taken as they stand, unless who checks says otherwise.
 */

declare const VALUE: unique symbol;

/** A form; what passes it is of type T. Its own acts (`min`, `allow`) leave it one. */
export type Form<T, S extends Joi.AnySchema = Joi.AnySchema> = S & { readonly [VALUE]: T };

/** The form of an object. */
export type ObjectForm<T> = Form<T, Joi.ObjectSchema<T>>;

/** The type of what passes a form. */
export type ValueOf<F> = F extends { readonly [VALUE]: infer T } ? T : never;

/** A field that need not be there. */
export interface Maybe<T> {
  readonly maybe: Form<T>;
}

/** A field that need not be said; it is there afterwards. */
export interface Filled<T> {
  readonly filled: Form<T>;
}

/** What an object may have: a form for each of its fields. */
export type Fields = Readonly<Record<string, Form<unknown> | Maybe<unknown> | Filled<unknown>>>;

type FieldValue<F> =
  F extends Maybe<infer T> ? T : F extends Filled<infer T> ? T : F extends { readonly [VALUE]: infer T } ? T : never;

type Flat<T> = { [K in keyof T]: T[K] };

/** An object with these fields. */
export type Shape<F extends Fields> = Flat<
  { -readonly [K in keyof F as F[K] extends Maybe<unknown> ? never : K]: FieldValue<F[K]> } & {
    -readonly [K in keyof F as F[K] extends Maybe<unknown> ? K : never]?: FieldValue<F[K]>;
  }
>;

/** What Joi says by itself, as a form. */
export const form = <S extends Joi.AnySchema>(schema: S): Form<S extends Joi.AnySchema<infer T> ? T : never, S> =>
  schema as Form<S extends Joi.AnySchema<infer T> ? T : never, S>;

/** The same where Joi cannot tell the type, as of a field whose form hangs on another. */
export const formOf = <T>(schema: Joi.Schema): Form<T> => schema as Form<T>;

/** A field that need not be there. */
export const maybe = <T>(of: Form<T>): Maybe<T> => ({ maybe: of });

/** A field that has this value where it is not there. */
export const filled = <T>(of: Form<T>, value: T): Filled<T> => ({ filled: of.default(value as object) });

/** It, or null: nothing is said, or what was said is taken away. */
export const orNull = <T>(of: Form<T>): Form<T | null> => of.allow(null) as Form<T | null>;

/** One of these texts, or of these numbers. */
export const oneOf = <const V extends string | number>(values: readonly V[]): Form<V> =>
  (typeof values[0] === "number" ? Joi.number() : Joi.string()).valid(...values) as Joi.AnySchema as Form<V>;

/** This value and no other. */
export const just = <const V extends string | number>(value: V): Form<V> => oneOf([value]) as Form<V>;

/** True or false. */
export const flag = form(Joi.boolean());

export const listOf = <T>(item: Form<T>): Form<T[], Joi.ArraySchema> =>
  Joi.array().items(item) as Form<T[], Joi.ArraySchema>;

/** Two values in their order. */
export const pairOf = <A, B>(first: Form<A>, second: Form<B>): Form<[A, B]> =>
  Joi.array().ordered(first.required(), second.required()).length(2) as Joi.AnySchema as Form<[A, B]>;

/** Values by names that fit a pattern. */
export const recordOf = <T>(names: RegExp | Form<string>, value: Form<T>): Form<Record<string, T>, Joi.ObjectSchema> =>
  Joi.object().pattern(names, value) as Form<Record<string, T>, Joi.ObjectSchema>;

/** One or the other. */
export const either = <A, B>(first: Form<A>, second: Form<B>): Form<A | B> =>
  Joi.alternatives(first, second) as Joi.AnySchema as Form<A | B>;

const fieldForm = (field: Fields[string]): Joi.AnySchema =>
  "maybe" in field ? field.maybe : "filled" in field ? field.filled : field.required();

const fieldForms = (fields: Fields): Record<string, Joi.AnySchema> =>
  Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, fieldForm(field)]));

/**
 * An object with these fields and no others.
 * @param also what more is asked of it as a whole, as that two fields stand together
 */
export function objectOf<const F extends Fields>(
  fields: F,
  also: (schema: Joi.ObjectSchema) => Joi.ObjectSchema = (schema) => schema,
): ObjectForm<Shape<F>> {
  return also(Joi.object(fieldForms(fields))) as ObjectForm<Shape<F>>;
}

/** An object in which beside its fields exactly one of several others stands. */
export const objectWithOne = <const F extends Fields, const C extends Readonly<Record<string, Form<unknown>>>>(
  fields: F,
  choices: C,
): ObjectForm<Shape<F> & { [K in keyof C]: { [N in K]: ValueOf<C[K]> } }[keyof C]> =>
  Joi.object({ ...fieldForms(fields), ...choices }).xor(...Object.keys(choices)) as ObjectForm<
    Shape<F> & { [K in keyof C]: { [N in K]: ValueOf<C[K]> } }[keyof C]
  >;

/** Objects whose `kind` says which other fields they have. */
type OneOfKinds<K extends Readonly<Record<string, Fields>>> = {
  [N in keyof K]: Flat<{ kind: N } & Shape<K[N]>>;
}[keyof K];

/**
 * One of several kinds of object, told apart by their `kind`. A field that several have is the same in each.
 * @throws Error when it is not
 */
export function kindsOf<const K extends Readonly<Record<string, Fields>>>(kinds: K): ObjectForm<OneOfKinds<K>> {
  const known = new Map<string, { need: "required" | "optional"; form: Joi.AnySchema; of: string[] }>();
  for (const [kind, fields] of Object.entries(kinds))
    for (const [name, field] of Object.entries(fields)) {
      const [need, of] = "maybe" in field ? (["optional", field.maybe] as const) : (["required", field] as const);
      const before = known.get(name);
      if (before && (before.need !== need || before.form !== of)) throw new Error(`two forms of ${name}`);
      if (before) before.of.push(kind);
      else known.set(name, { need, form: of as Joi.AnySchema, of: [kind] });
    }
  return Joi.object({
    kind: oneOf(Object.keys(kinds)).required(),
    ...Object.fromEntries(
      [...known].map(([name, { need, form: of, of: which }]) => [
        name,
        Joi.when("kind", { is: Joi.valid(...which), then: of[need](), otherwise: Joi.forbidden() }),
      ]),
    ),
  }) as Joi.AnySchema as ObjectForm<OneOfKinds<K>>;
}
