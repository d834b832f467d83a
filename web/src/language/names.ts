import { NAMES } from '../api/names.gen';
import type { components } from '../api/schema.gen';

type Schemas = components['schemas'];

/** Names of the trade by their codes: the core's, said everywhere alike. */
export const FAMILY: Record<Schemas['Family'], string> = NAMES.family;
export const BASE: Record<Schemas['Base'], string> = NAMES.base;
export const FORM: Record<Schemas['Form'], string> = NAMES.form;
export const STAGE: Record<Schemas['Stage'], string> = NAMES.stage;
export const JOB_TYPE: Record<Schemas['JobType'], string> = NAMES.job_type;
export const JOB_TYPE_MEANS: Record<Schemas['JobType'], string> = NAMES.job_type_means;
export const TOPPED_UP: Record<Schemas['ToppedUp'], string> = NAMES.topped_up;
export const TANK: Record<Schemas['TankKind'], string> = NAMES.tank;
export const LEVEL_RULE: Record<Schemas['LevelRule'], string> = NAMES.level_rule;
export const LOOP_USE: Record<Schemas['LoopUse'], string> = NAMES.loop_use;
export const FILTER: Record<Schemas['CoolantFilter'], string> = NAMES.filter;
export const WATER_KIND: Record<Schemas['WaterKind'], string> = NAMES.water_kind;
export const METHOD: Record<Schemas['Method'], string> = NAMES.method;
export const WASTE: Record<Schemas['WasteKind'], string> = NAMES.waste;
export const MEASURED: Record<Schemas['Measured'], string> = NAMES.measured;
export const MATERIAL: Record<Schemas['Material'], string> = NAMES.material;
export const CAPACITY_FROM: Record<Schemas['CapacitySource'], string> = NAMES.capacity_from;
export const NODE_KIND: Record<Schemas['NodeKind'], string> = NAMES.node_kind;
export const VIA: Record<Schemas['Via'], string> = NAMES.via;
export const BLEEDER: Record<Schemas['BleederKind'], string> = NAMES.bleeder;
export const AGENT_KIND: Record<Schemas['AgentKind'], string> = NAMES.agent_kind;
export const SCALE: Record<Schemas['Scale'], string> = NAMES.scale;
export const INSTRUMENT_KIND: Record<Schemas['InstrumentKind'], string> = NAMES.instrument_kind;
export const WATER_VERDICT: Record<Schemas['WaterVerdict'], string> = NAMES.water_verdict;
export const PLACE: Record<string, string> = NAMES.place;
export const RAN: Record<Schemas['Ran'], string> = NAMES.ran;
export const RULE_GROUP: Record<Schemas['Group'], string> = NAMES.rule_group;
export const RULE_GROUP_MEANS: Record<Schemas['Group'], string> = NAMES.rule_group_means;
export const LOOK: Record<Schemas['Look'], string> = NAMES.look;
export const READING_FLAG: Record<string, string> = NAMES.reading_flag;
export const WATCH: Record<string, string> = NAMES.watch;
export const MIX_INPUT: Record<string, string> = NAMES.mix_input;
export const MIX_INPUT_MEASURED: Record<string, string> = NAMES.mix_input_measured;
export const BAND: Record<Schemas['Band'], string> = NAMES.band;
export const PARKING: Record<Schemas['Parking'], string> = NAMES.parking;
export const CAN_KIND: Record<Schemas['CanKind'], string> = NAMES.can_kind;
export const LOST_WHEN: Record<Schemas['LostWhen'], string> = NAMES.lost_when;
export const LOW_SOURCE: Record<Schemas['LowSource'], string> = NAMES.low_source;
export const PLAN_KIND: Record<Schemas['PlanKind'], string> = NAMES.plan_kind;
export const FIGURE_KIND: Record<Schemas['FigureKind'], string> = NAMES.figure_kind;
export const CLAIM: Record<string, string> = NAMES.claim;
export const PROOF: Record<string, string> = NAMES.proof;

/** "Organic acid, ethylene glycol"; null parts are unknown. */
export function chemistry(family?: Schemas['Family'] | null, base?: Schemas['Base'] | null): string {
  if (!family && !base) return 'unknown';
  if (base === 'none') return 'Glycol-free';
  return [family ? FAMILY[family] : 'unknown type', base ? BASE[base] : 'unknown base'].join(', ');
}
export const LOOP_SIGN: Record<Schemas['LoopSign'], string> = NAMES.loop_sign;
export const GLOSSARY: Record<string, string> = NAMES.glossary;
export const STAGE_MEANS: Record<Schemas['Stage'], string> = NAMES.stage_means;

/** Protects as far as it has to: signed off without a reason. */
export const isSafe = (verdict: string): boolean => verdict === 'proven' || verdict === 'protected';
