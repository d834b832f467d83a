import ButtonBase from '@mui/material/ButtonBase';
import InputBase from '@mui/material/InputBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { policyOptions, sessionOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { FindField, hasWords } from '../controls/FindField';
import { Page, Waiting } from '../controls/menu/Page';
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
  const [words, look] = useState('');
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
  if (!policy.data) return <Waiting title="Rules" />;
  const lead = session?.person?.role === 'lead';
  const rules = policy.data.rules;
  const found = rules.filter(
    (row) =>
      row.key === edit?.key || hasWords(`${row.name} ${row.reason} ${row.origin} ${RULE_GROUP[row.group]}`, words),
  );
  const groups = (Object.keys(RULE_GROUP) as Schemas['Group'][]).filter((group) =>
    found.some((row) => row.group === group),
  );
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
    if (rule && edit && typed?.ok) set.mutate({ key: rule.key, value: typed.value, reason: edit.reason });
  };
  return (
    <Page
      title="Rules"
      line={`${session?.depot?.name ?? 'This depot'}; ${lead ? '' : 'a lead changes these; '}signed jobs keep the rules they were signed with`}
      tools={<FindField name="find-rule" label="Name, reason or source" value={words} onChange={look} />}
      mainClass="rulelist jumped"
      go={
        rule && (
          <GoPlate
            act={typed?.ok ? `Set ${plain(typed.value)} ${rule.unit}` : 'Set the rule'}
            then="used by every open job"
            waits={waits}
            busy={set.isPending}
            onPress={press}
          />
        )
      }
    >
      <nav className="jumps" aria-label="Groups">
        {groups.map((group) => (
          <a key={group} href={`#rules-${group}`}>
            {RULE_GROUP[group]} <small>{found.filter((row) => row.group === group).length}</small>
          </a>
        ))}
      </nav>
      <div>
        {groups.length === 0 && (
          <p className="empty" role="status">
            <b>No rule has these words.</b>
            Try fewer words.
          </p>
        )}
        {groups.map((group) => (
          <section key={group} id={`rules-${group}`} aria-label={RULE_GROUP[group]}>
            <h2>
              {RULE_GROUP[group]} <span>{RULE_GROUP_MEANS[group]}</span>
            </h2>
            {found
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
      </div>
    </Page>
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
