import {
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { sessionOptions } from '../api/queries';
import { DialogFrame } from '../controls/DialogFrame';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { PLAN_KIND } from '../language/names';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { AppointForm } from './AppointForm';
import { daysOfWeek, dayWords } from './days';
import { planOptions, type PlanRow, useAppoint } from './usePlan';

const FEWEST = 6;
const MORE = 6;
const MOST = 53;

/** Weeks of days; a lead drags what comes due to another day, or presses it to move and to assign it. */
export function PlanCalendar({ lead }: { lead: boolean }) {
  const [weeks, setWeeks] = useState(FEWEST);
  const me = useQuery(sessionOptions).data?.person?.id;
  const plan = useQuery(planOptions(weeks));
  const appoint = useAppoint(weeks);
  const [asked, ask] = useState<string | null>(null);
  // a press is a press: only a move of some pixels, or a press held, drags
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 8 } }),
    useSensor(KeyboardSensor, { keyboardCodes: { start: ['Space'], cancel: ['Escape'], end: ['Space'] } }),
  );
  const { volume } = useUnits();
  if (plan.isError)
    return <NotHere head="The plan cannot be shown." text={plan.error.message} retry={() => void plan.refetch()} />;
  if (!plan.data)
    return (
      <p className="empty" role="status">
        Loading …
      </p>
    );
  const { rows, today, people } = plan.data;
  const row = rows.find((one) => one.key === asked);
  const drop = ({ active, over }: DragEndEvent) => {
    const moved = rows.find((one) => one.key === active.id);
    if (!moved || !over || over.id === moved.day) return;
    appoint.mutate({ key: moved.key, day: String(over.id), person_id: moved.person?.id ?? null });
  };
  return (
    <>
      <p className="keyrow plankeys">
        <a className="key small linkkey" href="/api/calendar.ics">
          Calendar file, all
        </a>
        {me !== undefined && (
          <a className="key small linkkey" href={`/api/calendar.ics?person=${me}`}>
            Calendar file, mine
          </a>
        )}
      </p>
      {appoint.error && <Refusal which="Not moved." allowed={appoint.error.message} />}
      {rows.length === 0 && <p className="empty">Nothing comes due in these weeks.</p>}
      <DndContext sensors={sensors} onDragEnd={drop}>
        {plan.data.weeks.map((week) => (
          <section key={week.starts_on} className="planweek" aria-label={`Week of ${dayWords(week.starts_on)}`}>
            <h2>
              Week of {dayWords(week.starts_on)}
              <span>
                {week.many === 0
                  ? 'nothing due'
                  : `${week.many} due, ${number(week.hours, 1)} h${week.coolant_l > 0 ? `, ${volume(week.coolant_l)} coolant` : ''}`}
              </span>
            </h2>
            <div className="plandays">
              {daysOfWeek(week.starts_on).map((day) => (
                <Day key={day} day={day} past={day < today} isToday={day === today}>
                  {rows
                    .filter((one) => one.day === day)
                    .map((one) => (
                      <Card key={one.key} row={one} lead={lead} onPress={() => ask(one.key)} />
                    ))}
                </Day>
              ))}
            </div>
          </section>
        ))}
      </DndContext>
      {weeks < MOST && (
        <ButtonBase className="key" onClick={() => setWeeks(Math.min(MOST, weeks + MORE))}>
          Show more weeks
        </ButtonBase>
      )}
      <DialogFrame
        open={row !== undefined}
        title={row && `${row.machine?.fleet_number ?? row.name}: ${PLAN_KIND[row.kind].toLowerCase()}`}
        onClose={() => ask(null)}
      >
        {row && (
          <AppointForm
            row={row}
            today={today}
            people={people}
            lead={lead}
            busy={appoint.isPending}
            refused={appoint.error?.message}
            onSave={(given) => appoint.mutate({ key: row.key, ...given }, { onSuccess: () => ask(null) })}
          />
        )}
      </DialogFrame>
    </>
  );
}

interface DayProps {
  day: string;
  past: boolean;
  isToday: boolean;
  children: ReactNode[];
}

function Day({ day, past, isToday, children }: DayProps) {
  const { setNodeRef, isOver } = useDroppable({ id: day, disabled: past });
  const empty = children.length === 0;
  return (
    <div
      ref={setNodeRef}
      className={`planday${past ? ' past' : ''}${isToday ? ' today' : ''}${isOver ? ' over' : ''}${empty ? ' empty-day' : ''}`}
      data-day={day}
    >
      <h3>{isToday ? 'Today' : dayWords(day)}</h3>
      {children}
    </div>
  );
}

function Card({ row, lead, onPress }: { row: PlanRow; lead: boolean; onPress: () => void }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id: row.key, disabled: !lead });
  const { volume } = useUnits();
  const style = transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined;
  return (
    <div
      ref={setNodeRef}
      className={`plancard${isDragging ? ' dragged' : ''}`}
      style={style}
      {...(lead ? { ...listeners, ...attributes } : {})}
      role="button"
      tabIndex={0}
      onClick={onPress}
      onKeyDown={(event) => {
        if (event.key === 'Enter') onPress();
        else listeners?.onKeyDown?.(event);
      }}
    >
      <span className="plate">
        <span>{row.machine?.fleet_number ?? row.name}</span>
      </span>
      <b>{PLAN_KIND[row.kind]}</b>
      {row.machine && <span>{row.name}</span>}
      <span>
        {row.overdue && <b>overdue, </b>}
        {number(row.hours, 1)} h{row.coolant_l > 0 && `, ${volume(row.coolant_l)}`}
        {row.planned && row.day !== row.due_on && `, due ${dayWords(row.due_on)}`}
      </span>
      <i className="visually-hidden">: move or assign</i>
      {row.person && (
        <span className="by">
          <span className="ini" title={row.person.name}>
            {row.person.initials}
          </span>
        </span>
      )}
    </div>
  );
}
