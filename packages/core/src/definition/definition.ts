import type { Secret } from '../secret/secret.ts'
import type { Failure } from './kinds/failure.ts'
import type { Kind, Options } from './kinds/kind.ts'
import type { RuleBetween } from './rule-forms.ts'
import type { ReadAt, Setting } from './setting.ts'
import { findPattern, listLineage, type StageTree } from './stages.ts'

/** Marks a definition, also across two copies of this package in one program. */
export const DEFINITION = Symbol.for('mappa.definition')

declare const types: unique symbol

/** A setting in its place: everything that is known about it without any value. */
export interface Declaration {
  /** Path in code, such as `dome.key`. */
  readonly path: string
  /** The keys of the path. */
  readonly keys: readonly string[]
  /** Variable name, such as `DOME_KEY`. */
  readonly name: string
  /** Names that it had before. */
  readonly formerly: readonly string[]
  readonly kind: Kind
  readonly description: string
  readonly secret: boolean
  readonly public: boolean
  /** When a page gets a public value; `null` for what no page gets. */
  readonly readAt: ReadAt | null
  readonly optional: boolean
  readonly allowEmpty: boolean
  /** The programs that need it; `null` for all. */
  readonly programs: readonly string[] | null
  /** The path of the setting whose former value it holds; `null` for any other. */
  readonly formerOf: string | null
  /** The value where no layer sets one; `undefined` where there is none. */
  readonly default: unknown
  /** The options as they were given. */
  readonly options: Options
  /** The same setting in those stages that have rules of their own; `null` for one that a pattern with rules does not stand for. */
  readonly stages: Readonly<Record<string, Declaration | null>>
  /** The constraints, ready to be put to a value. Each tells what is wrong, or `null`. @internal */
  readonly checks: readonly ((value: unknown) => Failure | null)[]
}

/** A setting as it is in one stage. */
export function resolveStage(declaration: Declaration, stage: string): Declaration {
  const { stages } = declaration
  if (Object.hasOwn(stages, stage)) return stages[stage] ?? declaration
  const pattern = findPattern(
    Object.keys(stages).filter((each) => each.includes('*')),
    stage,
  )
  return pattern === null ? declaration : (stages[pattern] ?? declaration)
}

/**
 * The stages and patterns in which a setting is not what it is in the stage that each is like, or in all stages.
 *
 * @param settings one is enough that differs
 */
export function listOwnStages(tree: StageTree, settings: readonly Declaration[]): readonly string[] {
  return [...tree.stages, ...tree.stagePatterns].filter((stage) => {
    const [, parent] = listLineage(tree, stage)
    return settings.some(
      (each) => resolveStage(each, stage) !== (parent === undefined ? each : resolveStage(each, parent)),
    )
  })
}

/** The tree of all settings. Holds no values. */
export interface Definition<Tree = unknown, Program extends string = string> extends StageTree {
  readonly [DEFINITION]: true
  /** What all variable names begin with. */
  readonly prefix: string
  /** A directory with one file for each variable, as secrets are mounted; `null` where there is none. */
  readonly directory: string | null
  /** Directories whose layer files lie below those of the project, lowest first; relative to it. */
  readonly layersFrom: readonly string[]
  /** True if no program may start without a stage that is named. */
  readonly requireStage: boolean
  /** The rules between settings. @internal */
  readonly rules: readonly RuleBetween[]
  /** The programs of the project that do not all need the same settings; empty where nothing is said of programs. */
  readonly programs: readonly string[]
  /** The program whose settings these are; `null` for those of all. */
  readonly program: string | null
  /** The settings in the order in which they stand. */
  readonly settings: readonly Declaration[]
  /** Those that only other programs need. Their names are known, and what is secret of them stays so. @internal */
  readonly elsewhere: readonly Declaration[]
  /** For types alone. */
  readonly [types]?: { tree: Tree; program: Program }
}

/** True for what `defineSettings` made. */
export function isDefinition(value: unknown): value is Definition {
  return typeof value === 'object' && value !== null && DEFINITION in value
}

type Flatten<T> = { readonly [Key in keyof T]: T[Key] }

type ValueOf<Node> =
  Node extends Setting<infer Type, infer IsSecret, infer IsOptional, boolean, ReadAt>
    ? (IsSecret extends true ? Secret<Type> : Type) | (IsOptional extends true ? undefined : never)
    : Flatten<{ [Key in keyof Node]: ValueOf<Node[Key]> }>

/** True for a setting that each of the programs needs, and for a group that has one. */
type IsNeeded<Node, Program extends string> =
  Node extends Setting<unknown, boolean, boolean, boolean, ReadAt, infer For>
    ? [Program] extends [For]
      ? true
      : false
    : true extends { [Key in keyof Node]: IsNeeded<Node[Key], Program> }[keyof Node]
      ? true
      : false

type NeededOf<Node, Program extends string> =
  Node extends Setting<unknown, boolean, boolean, boolean, ReadAt>
    ? ValueOf<Node>
    : Flatten<{
        [Key in keyof Node as IsNeeded<Node[Key], Program> extends true ? Key : never]: NeededOf<Node[Key], Program>
      }>

/** The programs that a definition lists. */
export type ProgramOf<D> = D extends Definition<unknown, infer Program> ? Program : string

/**
 * The type of the values of a definition, or of what one program needs of them.
 *
 * @example
 * ```ts
 * const definition = defineSettings({ server: { port: setting.port('Port to listen on') } })
 * type Settings = Values<typeof definition> // { readonly server: { readonly port: number } }
 * type OfWorker = Values<typeof definition, 'worker'>
 * ```
 */
export type Values<D, Program extends string = never> = [Program] extends [never]
  ? Documented<InferredValues<D>>
  : D extends Definition<infer Tree>
    ? NeededOf<Tree, Program>
    : never

/** The same type, only from the definition, without what `mappa write types` has written. */
export type InferredValues<D> = D extends Definition<infer Tree> ? ValueOf<Tree> : never

declare global {
  /** Types of settings with their descriptions, which `mappa write types` adds here. */
  interface MappaSettingsTypes {}
}

/** The same type, as `mappa write types` has written it with descriptions, if that agrees; what is out of date is not used. */
type Documented<T> = [Agreeing<T, MappaSettingsTypes[keyof MappaSettingsTypes]>] extends [never]
  ? T
  : Agreeing<T, MappaSettingsTypes[keyof MappaSettingsTypes]>

type Agreeing<T, Written> = Written extends unknown
  ? [T] extends [Written]
    ? [Written] extends [T]
      ? Written
      : never
    : never
  : never

/** True for a setting that a page gets at one of the given times, and for a group that has one. */
type Reaches<Node, At extends ReadAt> =
  Node extends Setting<unknown, boolean, boolean, infer IsPublic, infer Own>
    ? IsPublic extends true
      ? Own extends At
        ? true
        : false
      : false
    : true extends { [Key in keyof Node]: Reaches<Node[Key], At> }[keyof Node]
      ? true
      : false

/** The paths of the settings of a tree, such as `'dome.key'`. */
export type PathsIn<Node> = {
  [Key in keyof Node & string]: Node[Key] extends Setting<unknown, boolean, boolean, boolean, ReadAt>
    ? Key
    : `${Key}.${PathsIn<Node[Key]>}`
}[keyof Node & string]

type PublicOf<Node, At extends ReadAt> =
  Node extends Setting<infer Type, boolean, infer IsOptional, boolean, ReadAt>
    ? Type | (IsOptional extends true ? undefined : never)
    : Flatten<{ [Key in keyof Node as Reaches<Node[Key], At> extends true ? Key : never]: PublicOf<Node[Key], At> }>

/**
 * The type of the public values of a definition: what `virtual:mappa/browser` gives a page.
 *
 * @example
 * ```ts
 * type Shown = PublicValues<typeof definition> // { readonly visitor: { readonly starMapUrl: string } }
 * ```
 */
export type PublicValues<D> = D extends Definition<infer Tree> ? Documented<PublicOf<Tree, ReadAt>> : never

/** The type of those public values that a page reads when it is opened: the settings with `readAt: 'runtime'`. */
export type RuntimeValues<D> = D extends Definition<infer Tree> ? PublicOf<Tree, 'runtime'> : never

/** A value as JSON has it: a date as RFC 3339 writes it, bytes as a list of numbers. */
type InJson<T> = T extends Date
  ? string
  : T extends Uint8Array
    ? readonly number[]
    : T extends readonly (infer Item)[]
      ? readonly InJson<Item>[]
      : T extends object
        ? { readonly [Key in keyof T]: InJson<T[Key]> }
        : T

/** The same as {@link RuntimeValues}, as they lie in a page: in JSON. */
export type RuntimeData<D> = InJson<RuntimeValues<D>>
