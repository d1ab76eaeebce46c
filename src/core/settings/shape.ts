import { IsArray, IsBoolean, IsNotEmpty, IsObject, IsString, Matches } from "class-validator";
import { Optional, Part } from "./validate.js";

/** One entry of the `accept` list. */
class AcceptShape {
  @IsString()
  @IsNotEmpty()
  rule!: string;

  @Optional(IsString())
  sdk?: string;

  @Optional(IsString())
  app?: string;

  @Optional(IsString())
  file?: string;

  @IsString({ message: "a reason is required: say why this is accepted" })
  @IsNotEmpty({ message: "a reason is required: say why this is accepted" })
  reason!: string;

  @Optional(Matches(/^\d{4}-\d{2}-\d{2}$/, { message: "until must be a date such as 2027-03-31" }))
  until?: string;
}

class PairShape {
  @Optional(IsString())
  name?: string;

  @IsString()
  android!: string;

  @IsString()
  ios!: string;
}

class LevelsShape {
  @Optional(Matches(/^\d+$/, { message: "minSdk must be a level such as 24" }))
  minSdk?: string;

  @Optional(Matches(/^\d+$/, { message: "targetSdk must be a level such as 35" }))
  targetSdk?: string;

  @Optional(Matches(/^\d+$/, { message: "compileSdk must be a level such as 35" }))
  compileSdk?: string;

  @Optional(Matches(/^\d+(\.\d+)*$/, { message: 'iosTarget must be a version such as "15.1"' }))
  iosTarget?: string;
}

class DifferShape {
  @Optional(IsBoolean())
  ids?: boolean;

  @Optional(IsArray(), IsString({ each: true }))
  versions?: string[];

  /** SDKs that one side has and the other is not meant to have. */
  @Optional(IsArray(), IsString({ each: true }))
  oneSided?: string[];
}

/** What `enredo fleet` holds all apps against. */
class PolicyShape {
  /** SDK → version that every app which has it must have at least. */
  @Optional(IsObject())
  sdks?: Record<string, string>;

  @Optional(Part(LevelsShape))
  levels?: LevelsShape;

  /** Rules or concerns that no app may break. */
  @Optional(IsArray(), IsString({ each: true }))
  rules?: string[];

  /** Projects that must have answered. */
  @Optional(IsArray(), IsString({ each: true }))
  projects?: string[];

  /** In days. */
  @Optional(Matches(/^\d+$/, { message: "maxAge must be a number of days such as 14" }))
  maxAge?: string;
}

/** The settings file `enredo.yaml`. */
export class SettingsShape {
  /** Rule or concern → error, warning, note or off. */
  @Optional(IsObject())
  severity?: Record<string, string>;

  @Optional(IsArray(), IsString({ each: true }))
  ignore?: string[];

  @Optional(IsArray(), Part(PairShape, { list: true }))
  pair?: PairShape[];

  @Optional(Part(LevelsShape))
  floors?: LevelsShape;

  @Optional(Part(DifferShape))
  mayDiffer?: DifferShape;

  @Optional(IsArray(), Part(AcceptShape, { list: true }))
  accept?: AcceptShape[];

  @Optional(Part(PolicyShape))
  policy?: PolicyShape;
}
