import {
  IsOptional,
  ValidateBy,
  ValidateIf,
  ValidateNested,
  getMetadataStorage,
  validateSync,
  type ValidationError,
} from "class-validator";
import type { Place } from "../model/place.js";
import { suggestion } from "../model/suggest.js";
import { at, placeOf, type Data, type Entry } from "../syntax/data.js";

/** Something wrong in a file that people write for the tool: what, where, and what to do. */
export interface InputProblem {
  message: string;
  fix: string;
  place: Place;
}

export type Shape = new () => object;

interface PartOptions {
  shape: Shape;
  orText: boolean;
  list: boolean;
}

const parts = new WeakMap<object, Map<string, PartOptions>>();

/**
 * Marks a property whose value (or the items of it, for a list) has a shape of its own. `orText`: a plain text is a short form of it.
 */
export function Part(shape: Shape, options: { orText?: boolean; list?: boolean } = {}): PropertyDecorator {
  return (target, property) => {
    const own = parts.get(target.constructor) ?? new Map<string, PartOptions>();
    parts.set(target.constructor, own);
    own.set(String(property), { shape, orText: options.orText ?? false, list: options.list ?? false });
    const name = String(property);
    if (options.orText)
      ValidateIf((object: Record<string, unknown>) => object[name] !== undefined && typeof object[name] !== "string")(target, property);
    ValidateNested({ each: options.list, message: `${name} must be ${options.orText ? "a text or " : ""}a table of keys` })(
      target,
      property,
    );
  };
}

/** A property that may be left out; where it is there, all of these hold. */
export function Optional(...conditions: PropertyDecorator[]): PropertyDecorator {
  return (target, property) => {
    // In the order in which stacked decorators run: from the last to the first.
    for (const condition of [...conditions].reverse()) condition(target, property);
    IsOptional()(target, property);
  };
}

/** A text, or a list of texts. */
export function IsTexts(): PropertyDecorator {
  return ValidateBy({
    name: "texts",
    validator: {
      validate: (value) => typeof value === "string" || (Array.isArray(value) && value.every((item) => typeof item === "string")),
      defaultMessage: (args) => `${args?.property ?? "this"} must be a text or a list of texts`,
    },
  });
}

export function partOf(shape: Shape, property: string): PartOptions | undefined {
  return parts.get(shape)?.get(property);
}

/** The keys that a shape knows, in the order of their declaration. */
function keysOf(shape: Shape): string[] {
  const names = getMetadataStorage()
    .getTargetValidationMetadatas(shape, "", false, false)
    .map(({ propertyName }) => propertyName);
  return [...new Set([...names, ...(parts.get(shape)?.keys() ?? [])])].filter((name) => name !== "kind");
}

/** Holds data against a shape; every problem has the place of the value or key that is wrong. */
export function validateData(data: Data, shape: Shape): InputProblem[] {
  const table = plain(data);
  return isSurelyValid(table, shape) ? [] : errorsOf(table, shape).flatMap((error) => described(error, data, shape));
}

/** What the validator itself says of a table, without its types, which the declarations of the door must not name. */
export function problemsOf(table: unknown, shape: Shape): readonly object[] {
  return errorsOf(table, shape);
}

function errorsOf(table: unknown, shape: Shape): ValidationError[] {
  return validateSync(instanceOf(shape, table), { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: false });
}

type ValidationMetadata = ReturnType<ReturnType<typeof getMetadataStorage>["getTargetValidationMetadatas"]>[number];

/** What the decorators of a property say, for a quick look. */
interface PropertyChecks {
  /** Nothing is asked where it is not there. */
  mayLack: boolean;
  /** The others hold only where all of these do. */
  conditions: ((object: unknown, value: unknown) => boolean)[];
  holds: ((value: unknown, object: unknown) => boolean)[];
}

const checksOfShapes = new WeakMap<Shape, Map<string, PropertyChecks>>();

/**
 * Whether a table is right without doubt. The validator makes an error for each property of each object before it looks, forty for every
 * need of a sheet: it is asked only where something may be wrong, and then words it.
 */
export function isSurelyValid(table: unknown, shape: Shape): boolean {
  if (!isTable(table)) return false;
  const checks = checksOf(shape);
  const right = (key: string, { conditions, holds }: PropertyChecks): boolean =>
    !conditions.every((condition) => condition(table, table[key])) || holds.every((check) => check(table[key], table));
  for (const key of Object.keys(table)) {
    const check = checks.get(key);
    if (!check || !right(key, check)) return false;
  }
  for (const [key, check] of checks) if (!check.mayLack && !Object.hasOwn(table, key) && !right(key, check)) return false;
  return true;
}

function isTable(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function checksOf(shape: Shape): Map<string, PropertyChecks> {
  const known = checksOfShapes.get(shape);
  if (known) return known;
  const checks = new Map<string, PropertyChecks>();
  for (const metadata of getMetadataStorage().getTargetValidationMetadatas(shape, "", false, false)) {
    const property = metadata.propertyName;
    const own = checks.get(property) ?? { mayLack: false, conditions: [], holds: [] };
    checks.set(property, own);
    if (metadata.type === "conditionalValidation")
      own.conditions.push((metadata.constraints as PropertyChecks["conditions"])[0] as (object: unknown, value: unknown) => boolean);
    else if (metadata.type === "nestedValidation") own.holds.push(checkOfPart(shape, property));
    else own.holds.push(...checksOfDecorator(shape, metadata));
  }
  for (const check of checks.values()) check.mayLack = check.conditions.some((condition) => !condition({}, undefined));
  checksOfShapes.set(shape, checks);
  return checks;
}

function checkOfPart(shape: Shape, property: string): (value: unknown) => boolean {
  const part = partOf(shape, property);
  if (!part) return () => false;
  return part.list
    ? (value) => Array.isArray(value) && value.every((item) => isSurelyValid(item, part.shape))
    : (value) => isSurelyValid(value, part.shape);
}

function checksOfDecorator(shape: Shape, { constraintCls, constraints, each, propertyName }: ValidationMetadata): PropertyChecks["holds"] {
  return getMetadataStorage()
    .getTargetValidatorConstraints(constraintCls)
    .map(({ instance }) => {
      const holds = (value: unknown, object: unknown): boolean =>
        instance.validate(value, {
          value,
          object: object as object,
          constraints: constraints as unknown[],
          property: propertyName,
          targetName: shape.name,
        }) === true;
      return each ? (value, object) => Array.isArray(value) && value.every((item) => holds(item, object)) : holds;
    });
}

function instanceOf(shape: Shape, data: unknown): object {
  const instance = new shape();
  for (const [key, value] of Object.entries(data as Record<string, unknown>)) {
    const part = partOf(shape, key);
    const convert = (item: unknown): unknown =>
      part && item !== null && typeof item === "object" && !Array.isArray(item) ? instanceOf(part.shape, item) : item;
    Object.defineProperty(instance, key, {
      value: Array.isArray(value) ? value.map(convert) : convert(value),
      enumerable: true,
      writable: true,
      configurable: true,
    });
  }
  return instance;
}

function plain(data: Data): unknown {
  if (data.kind === "list") return data.items.map(plain);
  if (data.kind === "map") return Object.fromEntries([...data.entries].map(([key, { value }]) => [key, plain(value)]));
  return data.value;
}

/** Turns the validator's tree of errors into sentences with places. */
function described(error: ValidationError, data: Data | undefined, shape: Shape | undefined): InputProblem[] {
  const index = data?.kind === "list" && /^\d+$/.test(error.property) ? Number(error.property) : undefined;
  const inner = index === undefined ? at(data, error.property) : at(data, index);
  const entry = data?.kind === "map" ? data.entries.get(error.property) : undefined;
  const place: Place = placeOfFault(data, entry, inner);
  const problems: InputProblem[] = [];
  for (const [kind, message] of Object.entries(error.constraints ?? {})) {
    if (kind === "whitelistValidation") {
      const known = shape ? keysOf(shape) : [];
      problems.push({
        message: `unknown key "${error.property}"`,
        fix: suggestion(error.property, known) ?? `use one of: ${known.join(", ")}`,
        place,
      });
    } else problems.push({ message, fix: entry ? "correct the value" : `add ${error.property} to this entry`, place });
    if (kind === "isNotEmpty" || kind === "isString") break;
  }
  const next = index === undefined && shape ? partOf(shape, error.property)?.shape : shape;
  for (const child of error.children ?? []) problems.push(...described(child, inner, next));
  return problems;
}

/** The nearest place of what is wrong: its entry, its value, what it stands in. */
function placeOfFault(data: Data | undefined, entry: Entry | undefined, inner: Data | undefined): Place {
  return data && entry ? data.source.place(entry.start) : inner ? placeOf(inner) : data ? placeOf(data) : { file: "", line: 1, column: 1 };
}
