import { IsArray, IsBoolean, IsNotEmpty, IsObject, IsOptional, IsString, Matches } from "class-validator";
import { Part } from "./validate.js";

/** One entry of the `accept` list. */
export class AcceptShape {
  @IsString()
  @IsNotEmpty()
  rule!: string;

  @IsOptional()
  @IsString()
  sdk?: string;

  @IsOptional()
  @IsString()
  app?: string;

  @IsOptional()
  @IsString()
  file?: string;

  @IsString({ message: "a reason is required: say why this is accepted" })
  @IsNotEmpty({ message: "a reason is required: say why this is accepted" })
  reason!: string;

  @IsOptional()
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: "until must be a date such as 2027-03-31" })
  until?: string;
}

export class PairShape {
  @IsOptional()
  @IsString()
  name?: string;

  @IsString()
  android!: string;

  @IsString()
  ios!: string;
}

export class LevelsShape {
  @IsOptional()
  @Matches(/^\d+$/, { message: "minSdk must be a level such as 24" })
  minSdk?: string;

  @IsOptional()
  @Matches(/^\d+$/, { message: "targetSdk must be a level such as 35" })
  targetSdk?: string;

  @IsOptional()
  @Matches(/^\d+$/, { message: "compileSdk must be a level such as 35" })
  compileSdk?: string;

  @IsOptional()
  @Matches(/^\d+(\.\d+)*$/, { message: 'iosTarget must be a version such as "15.1"' })
  iosTarget?: string;
}

export class DifferShape {
  @IsOptional()
  @IsBoolean()
  ids?: boolean;

  @IsOptional()
  @IsArray()
  @IsString({ each: true })
  versions?: string[];

  /** SDKs that one side has and the other is not meant to have. */
  @IsOptional()
  @IsArray()
  @IsString({ each: true })
  oneSided?: string[];
}

/** The settings file `enredo.yaml`. */
export class SettingsShape {
  /** Rule or concern → error, warning, note or off. */
  @IsOptional()
  @IsObject()
  severity?: Record<string, string>;

  @IsOptional()
  @IsArray()
  @IsString({ each: true })
  ignore?: string[];

  @IsOptional()
  @IsArray()
  @Part(PairShape, { list: true })
  pair?: PairShape[];

  @IsOptional()
  @Part(LevelsShape)
  floors?: LevelsShape;

  @IsOptional()
  @Part(DifferShape)
  mayDiffer?: DifferShape;

  @IsOptional()
  @IsArray()
  @Part(AcceptShape, { list: true })
  accept?: AcceptShape[];
}
