import ButtonBase from '@mui/material/ButtonBase';
import InputBase from '@mui/material/InputBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { policyOptions, sessionOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { TopStrip } from '../controls/TopStrip';
import { parseNumber } from '../units/parse';
import { RULE_GROUP, RULE_GROUP_MEANS } from '../language/names';
import { number } from '../units/units';
import { dayOf } from '../language/time';
import './rules.css';

type Rule = Schemas['RuleOut'];

interface Edit {
  key: string;
  value: string;
  reason: string;
}

/** A figure without decimals that say nothing. */
const plain = (value: number): string => number(value, 3).replace(/\.?0+$/, '');

/** Limits, margins, tolerances: the one table of this depot's rules, each with its reason and where it comes from. */
export default function RulesPage() {
  const policy = useQuery(policyOptions);
  const session = useQuery(sessionOptions).data;
  const client = useQueryClient();
  const go = useNavigate();
  const [edit, setEdit] = useState<Edit | null>(null); // never kept: a rule is set in one go or not at all
  const set = useMutation<Schemas['PolicyOut'], RefusalError, { key: string; value: number | null; reason: string }>({
    mutationFn: ({ key, ...body }) => unwrap(api.POST('/api/policy/{key}', { params: { path: { key } }, body })),
    onSuccess: (fresh) => {
      client.setQueryData(policyOptions.queryKey, fresh);
      void client.invalidateQueries({ queryKey: ['bench'] });
      void client.invalidateQueries({ queryKey: ['board'] });
      setEdit(null);
    },
  });
  if (policy.isError)
    return (
      <NotHere head="The rules cannot be shown." text={policy.error.message} retry={() => void policy.refetch()} />
    );
  if (!policy.data) return <p className="empty">Loading …</p>;
  const lead = session?.person?.role === 'lead';
  const rules = policy.data.rules;
  const rule = edit && rules.find((row) => row.key === edit.key);
  const typed = edit ? parseNumber(edit.value) : null;
  const outside = rule && typed?.ok ? typed.value < rule.low || typed.value > rule.high : false;
  const waits = !rule
    ? null
    : !typed?.ok || outside
      ? 'Fix the value'
      : edit && edit.reason.trim() === ''
        ? 'Say why'
        : null;
  const press = () => {
    if (!rule || !edit) void go('/');
    else if (typed?.ok) set.mutate({ key: rule.key, value: typed.value, reason: edit.reason });
  };
  return (
    <div className="page">
      <TopStrip>
        <div className="veh titled">
          <div>
            <b>Rules of {session?.depot?.name ?? 'this depot'}</b>
            <span>
              {lead
                ? 'signed jobs keep the rules they were signed with'
                : 'a lead changes these; signed jobs keep the rules they were signed with'}
            </span>
          </div>
        </div>
      </TopStrip>
      <main id="work" className="policy">
        {(Object.keys(RULE_GROUP) as Schemas['Group'][]).map((group) => (
          <section key={group} aria-label={RULE_GROUP[group]}>
            <h2>
              {RULE_GROUP[group]} <span>{RULE_GROUP_MEANS[group]}</span>
            </h2>
            {rules
              .filter((row) => row.group === group)
              .map((row) => (
                <RuleRow
                  key={row.key}
                  rule={row}
                  zone={session?.depot?.time_zone}
                  onChange={
                    lead
                      ? () => {
                          set.reset();
                          setEdit({ key: row.key, value: plain(row.value), reason: '' });
                        }
                      : null
                  }
                >
                  {edit?.key === row.key && (
                    <Editor
                      rule={row}
                      edit={edit}
                      refusal={set.error?.message ?? null}
                      onEdit={(part) => setEdit({ ...edit, ...part })}
                      onLeave={() => setEdit(null)}
                    />
                  )}
                </RuleRow>
              ))}
          </section>
        ))}
      </main>
      <div className="gocorner">
        <GoPlate
          act={rule && typed?.ok ? `Set ${plain(typed.value)} ${rule.unit}` : 'Back to the board'}
          then={rule ? 'used by every open job' : 'choose the next machine'}
          waits={waits}
          busy={set.isPending}
          onPress={press}
        />
      </div>
    </div>
  );
}

interface RowProps {
  rule: Rule;
  zone: string | undefined;
  onChange: (() => void) | null;
  children: React.ReactNode;
}

function RuleRow({ rule, zone, onChange, children }: RowProps) {
  const last = rule.changes[0];
  const own = rule.value !== rule.shipped;
  return (
    <div className="rulerow" data-testid={`rule-${rule.key}`}>
      <div className="what">
        <b>{rule.name}</b>
        <span>{rule.reason}</span>
      </div>
      <div className="figure">
        <span className="num">{plain(rule.value)}</span> <span className="unit">{rule.unit}</span>
      </div>
      <div className="origin">
        {own ? `shipped: ${plain(rule.shipped)} ${rule.unit}` : 'as shipped'}; {rule.origin}
        {last && (
          <span>
            {last.value === null ? 'Reset' : `Set to ${plain(last.value)}`} by {last.person.name},{' '}
            {dayOf(last.changed_at, zone)}: {last.reason}
          </span>
        )}
      </div>
      {onChange && (
        <ButtonBase className="key" onClick={onChange} aria-label={`Edit: ${rule.name}`}>
          Edit
        </ButtonBase>
      )}
      {children}
    </div>
  );
}

interface EditorProps {
  rule: Rule;
  edit: Edit;
  refusal: string | null;
  onEdit: (part: Partial<Edit>) => void;
  onLeave: () => void;
}

function Editor({ rule, edit, refusal, onEdit, onLeave }: EditorProps) {
  const [valueId, reasonId] = [useId(), useId()];
  const typed = parseNumber(edit.value);
  const outside = typed.ok && (typed.value < rule.low || typed.value > rule.high);
  const wrong = !typed.ok && !typed.empty ? typed : null;
  return (
    <div className="editor">
      <div className={`field${outside || wrong ? ' refused' : ''}`}>
        <label className="lbl" htmlFor={valueId}>
          New value, {rule.unit}
        </label>
        <div className="box">
          <InputBase
            id={valueId}
            name="rule-value"
            value={edit.value}
            autoComplete="off"
            onChange={(event) => onEdit({ value: event.target.value })}
          />
        </div>
      </div>
      <div className="field wide">
        <label className="lbl" htmlFor={reasonId}>
          Why
        </label>
        <div className="box">
          <InputBase
            id={reasonId}
            name="rule-reason"
            fullWidth
            value={edit.reason}
            inputProps={{ maxLength: 200 }}
            onChange={(event) => onEdit({ reason: event.target.value })}
          />
        </div>
      </div>
      {rule.value !== rule.shipped && (
        <ButtonBase className="key" onClick={() => onEdit({ value: plain(rule.shipped) })}>
          Shipped: {plain(rule.shipped)}
        </ButtonBase>
      )}
      <ButtonBase className="key" onClick={onLeave}>
        Discard changes
      </ButtonBase>
      {outside && typed.ok && (
        <Refusal
          which={`${plain(typed.value)} ${rule.unit} is not possible.`}
          allowed={`Allowed: ${plain(rule.low)} to ${plain(rule.high)} ${rule.unit}.`}
          todo={`Shipped: ${plain(rule.shipped)}.`}
        />
      )}
      {wrong && (
        <Refusal which={`Cannot read ${wrong.which}.`} allowed={`Allowed: ${wrong.allowed}.`} todo={wrong.todo} />
      )}
      {refusal && <Refusal which="Not set." allowed={refusal} />}
    </div>
  );
}
