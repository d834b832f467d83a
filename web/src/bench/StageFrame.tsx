import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import { type ReactNode, useState } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Refusal as RefusalError, Schemas } from '../api/client';
import { benchOptions, sessionOptions } from '../api/queries';
import { Circuit } from '../figures/Circuit';
import { type FrostMarks, FrostRule } from '../figures/FrostRule';
import { useSheetFocus } from '../controls/focus';
import { Refusal } from '../controls/Refusal';
import { sayIn } from '../language/say';
import { useUnits } from '../units/UnitsContext';
import { Swatch } from '../figures/patterns';
import { CurveDialog } from './CurveDialog';
import { useDraftState } from './draftState';
import { StageHint } from './StageHint';
import { Totals } from './Totals';
import { VesselTable } from './VesselTable';

interface Props {
  bench: Schemas['Bench'];
  /** What is drawn: the recorded state, or the state as it would be. */
  state: Schemas['LoopState'];
  marks: FrostMarks;
  go: ReactNode;
  refusal?: RefusalError | null;
  drainsNext?: boolean;
  /** Something is typed that is not recorded yet. */
  drafted?: boolean;
  /** Vessels show the share of old coolant in them instead of litres. */
  shares?: boolean;
  /** The base whose curve the frost rule shows; by default that of what goes in, or of what is inside. */
  base?: Schemas['Base'] | null;
  /** What stands in the circuit's place, with the name of its pull on a phone. */
  figure?: { name: string; says: string; inside: ReactNode };
  /** The field that is typed next, where the sheet begins with typing. */
  firstField?: string | undefined;
  children: ReactNode;
}

const DRAFT_SAID = { here: 'Draft in this browser', saving: 'Saving the draft', kept: 'Draft kept' } as const;

/** Worksheet, go plate, circuit and frost rule of one stage, in reading order; each finds its place by grid area. */
export function StageFrame({
  bench,
  state,
  marks,
  go,
  refusal,
  drainsNext = false,
  drafted = false,
  shares = false,
  base,
  figure,
  firstField,
  children,
}: Props) {
  useSheetFocus(firstField);
  const [pulled, pull] = useState<'circuit' | 'rule' | null>(null);
  const [curve, openCurve] = useState(false);
  const { system, volume, temperature } = useUnits();
  const who = useQuery(sessionOptions).data?.person?.name.split(' ')[0];
  const draftState = useDraftState(bench.loop.id);
  const claim = state.claim.freeze_c;
  const glycol =
    (base ?? bench.state.plan?.product.base ?? bench.state.inside.base) === 'propylene' ? 'propylene' : 'ethylene';
  const scale = bench.frost_scales.find((row) => row.glycol === glycol);
  return (
    <>
      <main className="sheet" id="work">
        {bench.state.stage && !bench.state.signed_at && <StageHint stage={bench.state.stage} />}
        {!bench.state.signed_at &&
          (bench.taught[bench.state.stage ?? 'identify'] ?? []).map((said) => (
            <p key={said.sentence} className="ink2" data-testid="taught">
              {sayIn(said, system)}
            </p>
          ))}
        {children}
        {refusal && <ServerRefusal refusal={refusal} loopId={bench.loop.id} />}
      </main>
      <div className="gocorner">
        {drafted && (
          <span className="drafted">
            {DRAFT_SAID[draftState]} for {who}; not recorded yet.
          </span>
        )}
        {go}
      </div>
      <section
        className={`circuit${pulled === 'circuit' ? ' pulled' : ''}`}
        aria-label={figure ? figure.name : `Circuit, ${bench.loop.name}`}
      >
        {figure ? figure.inside : <LoopDrawing {...{ bench, state, drainsNext, shares }} />}
        <CloseKey onPress={() => pull(null)} />
      </section>
      <section className={`rule${pulled === 'rule' ? ' pulled' : ''}`} aria-label="Frost rule">
        <ButtonBase className="ruletitle" onClick={() => openCurve(true)}>
          <b>Frost rule</b> <u>curve</u>
        </ButtonBase>
        {scale && <FrostRule system={system} scale={scale} marks={marks} />}
        {scale && <CurveDialog open={curve} onClose={() => openCurve(false)} scale={scale} marks={marks} />}
        <CloseKey onPress={() => pull(null)} />
      </section>
      <div className="pulls">
        <ButtonBase onClick={() => pull('circuit')}>
          <b>{figure ? figure.name : 'Circuit'}</b>
          <span>{figure ? figure.says : `${volume(state.inside.litres)} inside`}</span>
        </ButtonBase>
        <ButtonBase onClick={() => pull('rule')}>
          <b>Frost rule</b>
          <span>{claim === null ? 'strength unknown' : `now ${temperature(claim)}`}</span>
        </ButtonBase>
      </div>
    </>
  );
}

interface DrawingProps {
  bench: Schemas['Bench'];
  state: Schemas['LoopState'];
  drainsNext: boolean;
  shares: boolean;
}

/** The circuit with its key and its totals. */
function LoopDrawing({ bench, state, drainsNext, shares }: DrawingProps) {
  const { system } = useUnits();
  const trapped = state.fill?.air;
  const [twin, openTwin] = useState(false);
  return (
    <>
      <div className="ctitle">
        <ButtonBase className="twinkey" onClick={() => openTwin(true)}>
          <b>{bench.loop.name}</b>
          <span className="visually-hidden">, as a table</span>
        </ButtonBase>
        <Dialog open={twin} onClose={() => openTwin(false)} aria-label={`${bench.loop.name}, as a table`}>
          <VesselTable vessels={state.vessels} onClose={() => openTwin(false)} />
        </Dialog>
        <span className="oldkey">
          <span>old&nbsp;%</span>
          {(
            [
              ['old100', '100'],
              ['old23', '23'],
              ['old5', '5'],
              ['old1', '1'],
            ] as const
          ).map(([fill, text]) => (
            <span key={fill} style={{ display: 'contents' }}>
              <Swatch fill={fill} />
              <i>{text}</i>
            </span>
          ))}
        </span>
      </div>
      <Circuit
        system={system}
        layout={bench.loop.layout}
        vessels={state.vessels}
        fresh={state.poured.product_l > 0}
        drainsNext={drainsNext}
        shares={shares}
        air={trapped?.trapped && trapped.where ? { where: trapped.where, litres: trapped.air_l } : null}
      />
      <Totals capacityL={bench.loop.capacity_l} state={state} />
    </>
  );
}

function CloseKey({ onPress }: { onPress: () => void }) {
  return (
    <ButtonBase className="key pullup-close" onClick={onPress}>
      Close
    </ButtonBase>
  );
}

/** What the server would not record, and the way on. */
function ServerRefusal({ refusal, loopId }: { refusal: RefusalError; loopId: number }) {
  const client = useQueryClient();
  return (
    <Refusal which={refusal.status === 401 ? 'Not recorded yet.' : 'Not recorded.'} allowed={refusal.message}>
      {refusal.status === 409 && (
        <ButtonBase className="key" onClick={() => void client.invalidateQueries(benchOptions(loopId))}>
          Reload
        </ButtonBase>
      )}
    </Refusal>
  );
}
