import ButtonBase from '@mui/material/ButtonBase';
import type { ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { Change, Cross, Tick } from '../controls/icons';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dateOf } from '../language/time';
import { FAMILY, FORM, WATER_KIND, WATER_VERDICT, chemistry } from '../language/names';

interface RowProps<T> {
  line: T;
  currency: string;
  onEdit: (() => void) | null;
  children: ReactNode;
}

interface LineProps {
  name: string;
  edit?: string;
  onEdit: (() => void) | null;
  children: ReactNode;
}

function Line({ name, edit = 'Edit', onEdit, children }: LineProps) {
  return (
    <>
      {children}
      {onEdit && (
        <ButtonBase className="key small" aria-label={`${edit}: ${name}`} onClick={onEdit}>
          {edit}
        </ButtonBase>
      )}
    </>
  );
}

const priced = (price: string | null, currency: string, per: string): string =>
  price === null ? 'no price' : `${price} ${currency} ${per}`;

/** Its glycol; what the label does not state is said to be a guess. */
const glycolOf = (product: Schemas['ProductOut']): string =>
  product.glycol_stated === false ? 'glycol not stated' : `${number(product.glycol_mass_percent, 0)} % by mass`;

export function ProductRow({ line, currency, onEdit, children }: RowProps<Schemas['ProductLine']>) {
  const { size } = useUnits();
  const { product, fits } = line;
  const others = fits.fits - fits.where.length;
  return (
    <div className="catrow" data-testid={`product-${product.id}`}>
      <Line name={product.name} edit={product.label_entered === false ? 'Enter label' : 'Edit'} onEdit={onEdit}>
        <div className="what">
          <b>{product.name}</b>
          <span>
            {chemistry(product.family, product.base)}
            {product.base !== 'none' && `, ${FORM[product.form]}, ${glycolOf(product)}`}
          </span>
          <span>{product.standards.join(', ')}</span>
        </div>
        {product.label_entered === false ? (
          <div className="verdictcell">
            <span>
              <Cross />
              <b>enter its label first</b>
            </span>
            <small>From the list: it suits no loop until somebody has read the label.</small>
          </div>
        ) : (
          <div className="verdictcell">
            <span>
              {fits.fits > 0 ? <Tick size={17} /> : <Cross />}
              <b>
                fits {fits.fits} {fits.fits === 1 ? 'loop' : 'loops'}
              </b>
            </span>
            <small>
              {fits.where.join(', ')}
              {others > 0 && ` and ${others} more`}
            </small>
            <small>
              {[
                fits.after_change_out > 0 && `${fits.after_change_out} after changing type`,
                fits.emergency > 0 && `${fits.emergency} in an emergency`,
                `${fits.no} not suitable`,
              ]
                .filter(Boolean)
                .join(', ')}
            </small>
          </div>
        )}
        <div className="sold">
          {product.container_sizes_l.map((litres) => size(litres)).join(', ') || 'no container'}
          <span>{priced(product.price_per_l, currency, 'per litre')}</span>
        </div>
      </Line>
      {children}
    </div>
  );
}

export function AgentRow({ line, currency, onEdit, children }: RowProps<Schemas['AgentOut']>) {
  const { size } = useUnits();
  const runs = [
    line.light_min !== null && `light ${line.light_min} min`,
    line.heavy_min !== null && `heavy ${line.heavy_min} min`,
  ].filter(Boolean);
  const raised = [
    line.nitrite_mg_l !== null && `nitrite ${number(line.nitrite_mg_l, 0)} mg/l`,
    line.molybdate_mg_l !== null && `molybdate ${number(line.molybdate_mg_l, 0)} mg/l`,
  ].filter(Boolean);
  return (
    <div className="catrow" data-testid={`agent-${line.id}`}>
      <Line name={line.name} onEdit={onEdit}>
        <div className="what">
          <b>{line.name}</b>
          <span>
            {line.kind}
            {runs.length > 0 && `: ${runs.join(', ')}`}
            {raised.length > 0 && `: raises ${raised.join(', ')}`}
          </span>
        </div>
        <div className="verdictcell">
          {line.limit_min !== null ? (
            <span>
              <i className="tape" />
              <b>at most {line.limit_min} min</b>
            </span>
          ) : (
            <span>
              {line.kind === 'cleaner'
                ? 'no limit on the label'
                : line.families.length > 0
                  ? `for ${line.families.map((one) => FAMILY[one]).join(', ')}`
                  : 'the coolants it is for are not entered'}
            </span>
          )}
          {line.rinse_below_percent !== null && (
            <small>then rinse until below {number(line.rinse_below_percent, 1)} %</small>
          )}
        </div>
        <div className="sold">
          {number(line.container_ml, 0)} ml for {size(line.treats_l)}
          <span>{priced(line.price, currency, 'per container')}</span>
        </div>
      </Line>
      {children}
    </div>
  );
}

export function WaterRow({ line, currency, onEdit, children }: RowProps<Schemas['WaterOut']>) {
  const { system } = useUnits();
  const { verdict, reasons } = line.judged;
  return (
    <div className="catrow" data-testid={`water-${line.id}`}>
      <Line name={line.name} onEdit={onEdit}>
        <div className="what">
          <b>{line.name}</b>
          <span>
            {WATER_KIND[line.kind]}
            {line.analysed_on && `, analysed ${dateOf(line.analysed_on)}`}
          </span>
        </div>
        <div className="verdictcell">
          <span>
            {verdict === 'fit' ? <Tick size={17} /> : verdict === 'rinse_only' ? <Cross /> : <Change />}
            <b>{WATER_VERDICT[verdict]}</b>
          </span>
          <small>{reasons.map((reason) => sayIn(reason, system)).join(' ')}</small>
        </div>
        <div className="sold">
          <span>{priced(line.price_per_l, currency, 'per litre')}</span>
        </div>
      </Line>
      {children}
    </div>
  );
}
