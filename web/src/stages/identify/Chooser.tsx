import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import { useDepot } from '../../api/useDepot';
import { Change, Cross, Tick } from '../../controls/icons';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { chemistry, FORM } from '../../language/names';

type Choice = Schemas['Choice'];
type Cost = NonNullable<Choice['cost']>;

const MARK: Record<Schemas['Verdict'], () => React.ReactNode> = {
  fits: () => <Tick size={17} />,
  fits_after_change_out: () => <Change />,
  emergency_only: () => <Change />,
  no: () => <Cross />,
};

/** "1 h 20" or "40 min", in quarters of an hour beyond the first. */
export function durationWords(minutes: number): string {
  const fives = Math.round(minutes / 5) * 5;
  if (fives < 60) return `${fives} min`;
  const quarters = Math.round(minutes / 15);
  const rest = (quarters % 4) * 15;
  return `${Math.floor(quarters / 4)} h${rest ? ` ${rest}` : ''}`;
}

/** Rinses and water in a few words, for the closed row. */
function shortCost(cost: Cost, volume: (litres: number) => string): string {
  if (cost.rinses === null) return 'too many rinses';
  if (cost.rinses === 0) return 'no rinse';
  return `${cost.rinses} ${cost.rinses === 1 ? 'rinse' : 'rinses'}, ${volume(cost.rinse_water_l)} water`;
}

interface Props {
  choices: Choice[];
  picked: Choice | null;
  onPick: (choice: Choice) => void;
}

/** All products with their verdict for this loop, best first; the picked one with its reasons and what it costs. */
export function Chooser({ choices, picked, onPick }: Props) {
  return (
    <div className="choices" role="radiogroup" aria-labelledby="choices" style={{ paddingTop: 6 }}>
      {choices.map((choice) => (
        <ChoiceRow key={choice.product.id} choice={choice} picked={choice === picked} onPick={() => onPick(choice)} />
      ))}
    </div>
  );
}

function ChoiceRow({ choice, picked, onPick }: { choice: Choice; picked: boolean; onPick: () => void }) {
  const { volume } = useUnits();
  const { product, judged, cost } = choice;
  return (
    <div>
      <ButtonBase className="choice" role="radio" aria-checked={picked} onClick={onPick}>
        <span>
          <b>{product.name}</b>
          <small>
            {chemistry(product.family, product.base)}
            {product.base !== 'none' && `, ${FORM[product.form]}`}
          </small>
        </span>
        <span className="says">
          <span>
            {MARK[judged.verdict]()}
            {judged.short}
          </span>
          {cost && <small>{shortCost(cost, volume)}</small>}
        </span>
      </ButtonBase>
      {picked && (
        <div className="choicemore">
          <ul className="reasons">
            {judged.reasons.map((reason) => (
              <li key={reason.code}>
                {reason.weight === 0 ? <Tick size={17} /> : reason.weight === 3 ? <Cross /> : <Change />}
                <span>{reason.sentence}</span>
              </li>
            ))}
          </ul>
          {cost && <CostLine cost={cost} />}
        </div>
      )}
    </div>
  );
}

/** What the change asks for: litres, time, money, as far as it can be estimated before anything is opened. */
function CostLine({ cost }: { cost: Cost }) {
  const { volume, system } = useUnits();
  const depot = useDepot();
  const figures: [string, string][] = [
    [cost.rinses === null ? 'more than the limit' : String(cost.rinses), cost.rinses === 1 ? 'rinse' : 'rinses'],
    [volume(cost.rinse_water_l), 'rinse water'],
    [volume(cost.product_l), 'product'],
    [volume(cost.mix_water_l), 'water in the mix'],
    [volume(cost.waste_l), 'to dispose of'],
    [`about ${durationWords(cost.hands_min)}`, 'work'],
    [`${durationWords(cost.wait_min.low)} to ${durationWords(cost.wait_min.high)}`, 'running and cooling'],
    [
      cost.price === null ? 'no price' : `${number(cost.price, 0)} ${depot?.currency ?? ''}`,
      'product and demin. water',
    ],
  ];
  return (
    <>
      <p className="ink2 predicted">Predicted from what the drains empty; the measured litres decide.</p>
      <dl className="costs" data-testid="cost">
        {figures.map(([value, name]) => (
          <div key={name}>
            <dd>{value}</dd>
            <dt>{name}</dt>
          </div>
        ))}
      </dl>
      {cost.reason && (
        <p className="hot">
          <b>{sayIn(cost.reason, system)}</b>
        </p>
      )}
    </>
  );
}
