import { getMetadataStorage } from "class-validator";
import { SettingsShape } from "../settings/shape.js";
import { partOf, type Shape } from "../settings/validate.js";
import { NEED_KINDS } from "../model/sheet.js";
import { NeedShape, SheetShape } from "./shape.js";

type Schema = Record<string, unknown>;

/** The JSON Schema of a sheet, made from the classes that validate it. Editors complete and check sheets with it. */
export function sheetSchema(): Schema {
  return {
    $schema: "http://json-schema.org/draft-07/schema#",
    $id: "https://enredo.example/sheets/sheet.schema.json",
    title: "SDK sheet",
    description: "What one SDK needs of the apps that it is in.",
    ...schemaOf(SheetShape),
  };
}

/** The JSON Schema of a settings file, made in the same way. */
export function settingsSchema(): Schema {
  return {
    $schema: "http://json-schema.org/draft-07/schema#",
    $id: "https://enredo.example/schemas/settings.schema.json",
    title: "Enredo settings",
    description: "enredo.yaml: severities, ignored folders, pairs, floors, meant differences, accepted findings.",
    ...schemaOf(SettingsShape),
  };
}

// eslint-disable-next-line complexity -- one case for each decorator of the shapes
function schemaOf(shape: Shape): Schema {
  const properties: Record<string, Schema> = {};
  const optional = new Set<string>();
  for (const { propertyName, type, name, constraints } of getMetadataStorage().getTargetValidationMetadatas(shape, "", false, false)) {
    const schema = (properties[propertyName] ??= {});
    const args = constraints as unknown[] | undefined;
    if (type === "conditionalValidation") {
      if (!partOf(shape, propertyName)?.orText || name === "isOptional") optional.add(propertyName);
    } else if (name === "isString" || name === "isNotEmpty" || name === "isSpan") {
      schema.type = "string";
      if (name === "isNotEmpty") schema.minLength = 1;
    } else if (name === "isValue") schema.type = ["string", "number", "boolean"];
    else if (name === "isBoolean") schema.type = "boolean";
    else if (name === "isObject") schema.type = "object";
    else if (name === "isArray") schema.type = "array";
    else if (name === "isIn") schema.enum = args?.[0];
    else if (name === "matches") {
      const pattern = (args?.[0] as RegExp).source;
      // YAML reads 24 as a number and "15.1" as a text: both are versions.
      if (pattern.startsWith("^\\d")) schema.anyOf = [{ type: "number" }, { type: "string", pattern }];
      else Object.assign(schema, { type: "string", pattern });
    } else if (name === "texts") schema.anyOf = [{ type: "string" }, { type: "array", items: { type: "string" } }];
  }
  for (const [property, schema] of Object.entries(properties)) {
    const part = partOf(shape, property);
    if (part) {
      const inner = schemaOf(part.shape);
      const value = part.orText ? { anyOf: [{ type: "string" }, inner] } : inner;
      properties[property] = part.list ? { type: "array", items: value } : value;
    } else if (schema.type === "array" && !schema.items) schema.items = { type: "string" };
  }
  const required = Object.keys(properties).filter((property) => !optional.has(property));
  return {
    type: "object",
    additionalProperties: false,
    properties,
    ...(required.length > 0 ? { required } : {}),
    // A need says exactly one thing.
    ...(shape === NeedShape ? { oneOf: NEED_KINDS.map((kind) => ({ required: [kind] })) } : {}),
  };
}
