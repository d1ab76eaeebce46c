import { IsArray, IsBoolean, IsDefined, IsIn, IsNotEmpty, IsString, Matches, ValidateBy } from "class-validator";
import { AGREEMENTS, NEED_KINDS, PACKAGE_KEYS } from "../model/sheet.js";
import type { Form, KeyForm, TableForm } from "../needs/form.js";
import { NEEDS } from "../needs/kinds/index.js";
import { IsTexts, Optional, Part, type Shape } from "../settings/validate.js";
import { isSpan } from "../versions/span.js";

function IsSpan(): PropertyDecorator {
  return ValidateBy(
    { name: "isSpan", validator: { validate: (value) => typeof value === "string" && isSpan(value) } },
    { message: (args) => `${args?.property ?? ""} must be versions such as "<4.2.0", ">=4.0 <4.2" or "[4.0,4.2)"` },
  );
}

function IsValue(): PropertyDecorator {
  return ValidateBy(
    { name: "isValue", validator: { validate: (value) => ["string", "number", "boolean"].includes(typeof value) } },
    { message: (args) => `${args?.property ?? ""} must be a text, a number, true or false` },
  );
}

/** Versions are written as texts or numbers; both are read as text. */
function IsVersion(): PropertyDecorator {
  return Matches(/^\d+(\.\d+)*([-.][A-Za-z].*)?$/, { message: (args) => `${args.property} must be a version such as 24 or "15.1"` });
}

/** A class that validates tables of one form. */
function shapeOf({ keys }: TableForm): Shape {
  const shape = class {};
  for (const [key, form] of Object.entries(keys)) addKey(shape, key, form);
  return shape;
}

function addKey(shape: Shape, key: string, form: KeyForm): void {
  const conditions = conditionsOf(key, form);
  // In the order in which stacked decorators run: from the last to the first.
  if (form.optional) Optional(...conditions)(shape.prototype as object, key);
  else for (const condition of [...conditions].reverse()) condition(shape.prototype as object, key);
}

function conditionsOf(key: string, form: Form): PropertyDecorator[] {
  switch (form.form) {
    case "text":
      return form.matches
        ? [Matches(form.matches.pattern, { message: form.matches.message })]
        : form.filled
          ? [IsString(), IsNotEmpty()]
          : [IsString()];
    case "word":
      return [IsIn([...form.of], { message: `${key} must be ${listed(form.of)}` })];
    case "value":
      return [IsValue()];
    case "flag":
      return [IsBoolean()];
    case "version":
      return [IsVersion()];
    case "span":
      return [IsSpan()];
    case "names":
      return [IsTexts()];
    case "texts":
      return [IsArray(), IsString({ each: true })];
    case "table":
      return [Part(shapeOf(form), { orText: form.short !== undefined })];
    case "tables":
      return [IsArray(form.message === undefined ? {} : { message: form.message }), Part(shapeOf(form.of), { list: true })];
  }
}

/** `a, b or c`. */
function listed(words: readonly string[]): string {
  return words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} or ${words.at(-1) ?? ""}`;
}

/** One thing that an SDK asks of the app: when it holds and why, and one of the kinds of need. */
export class NeedShape {
  @IsIn(["android", "ios", "both", "shared"], { message: "on must be android, ios, both or shared" })
  on!: string;

  /** First version of the SDK that asks for it. */
  @Optional(IsVersion())
  from?: string;

  /** First version of the SDK that no longer asks for it. */
  @Optional(IsVersion())
  before?: string;

  /** Only in apps of these frameworks. */
  @Optional(IsTexts())
  framework?: string | string[];

  /** Only for this build type, flavour or configuration. */
  @Optional(IsString())
  variant?: string;

  /** Only where this other package or SDK is in. */
  @Optional(IsString())
  with?: string;

  /** Only where the app's own code calls this. */
  @Optional(IsString())
  uses?: string;

  @Optional(IsString())
  why?: string;

  /** Only some apps need it: a note where it is missing, never an error. */
  @Optional(IsBoolean())
  optional?: boolean;
}
for (const kind of NEED_KINDS) addKey(NeedShape, kind, { ...NEEDS[kind].form, optional: true });

/** How an SDK arrives, as each ecosystem writes it; for binaries the names of their files, in which `*` stands for anything. */
class PackagesShape {}
for (const key of PACKAGE_KEYS) Optional(IsTexts())(PackagesShape.prototype, key);

/** What one SDK needs of the apps that it is in. */
export class SheetShape {
  @Matches(/^[a-z0-9][a-z0-9._-]*$/, { message: "sdk must be a short id in lower case, such as quaymap" })
  sdk!: string;

  @Optional(IsString())
  title?: string;

  @Optional(IsString())
  docs?: string;

  @IsDefined({ message: "packages must be a table of keys: say how the SDK arrives" })
  @Part(PackagesShape)
  packages!: Partial<Record<(typeof PACKAGE_KEYS)[number], string | string[]>>;

  /** How near the native versions of the two sides must be. */
  @Optional(IsIn([...AGREEMENTS], { message: "agree must be exact, patch, minor, major or free" }))
  agree?: string;

  @Optional(IsArray({ message: "needs must be a list" }), Part(NeedShape, { list: true }))
  needs?: NeedShape[];
}
