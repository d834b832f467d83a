import {
  DataGrid,
  type GridColumnVisibilityModel,
  type GridFilterModel,
  type GridInitialState,
  type GridSortModel,
  useGridApiRef,
} from '@mui/x-data-grid';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useDepot } from '../api/useDepot';
import { Refusal } from '../controls/Refusal';
import { nonce } from '../theme/nonce';
import { useUnits } from '../units/UnitsContext';
import { columnsOf, whereOf } from './columns';
import { logOptions } from './readingsQuery';

const KEPT = 'temper.log.columns';
const SIZE = 50;
const SPARE: GridColumnVisibilityModel = { loop: false, glycol_mass_percent: false, sample_c: false };
const ON_A_PHONE: GridColumnVisibilityModel = {
  ...SPARE,
  place: false,
  instrument: false,
  value: false,
  person: false,
};
const fresh = (): GridInitialState => ({
  columns: { columnVisibilityModel: window.innerWidth < 600 ? ON_A_PHONE : SPARE },
});

/** Columns as this person left them, on this device. */
function kept(): GridInitialState {
  try {
    const columns = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as GridInitialState['columns'] | null;
    return columns ? { columns } : fresh();
  } catch {
    return fresh();
  }
}

interface Props {
  /** Conditions that stand whatever the table filters: this loop, this instrument. */
  fixed: string[];
  onWhere: (where: string[]) => void;
}

/** All readings, a page at a time; the server sorts and filters, and the first page costs the same however many there are. */
export function ReadingsTable({ fixed, onWhere }: Props) {
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  const go = useNavigate();
  const grid = useGridApiRef();
  const [sorting, sort] = useState<GridSortModel>([{ field: 'taken_at', sort: 'desc' }]);
  const [filters, filter] = useState<GridFilterModel>({ items: [] });
  const [marks, turn] = useState<string[]>(['']); // the mark that each page begins after
  const [page, open] = useState(0);
  const [initialState] = useState(kept);
  const columns = useMemo(() => columnsOf(system, zone), [system, zone]);
  const where = [...fixed, ...whereOf(filters, system)];
  const first = sorting[0];
  const log = useQuery(
    logOptions({
      sort: first ? `${first.sort === 'desc' ? '-' : ''}${first.field}` : '-taken_at',
      where,
      after: marks[page] ?? '',
      size: SIZE,
    }),
  );
  const known = log.data !== undefined && !log.isPlaceholderData; // "no next page" for a moment would stay with the table
  const after = known ? log.data.after : null;
  const again = () => {
    turn(['']);
    open(0);
  };
  const keep = () => {
    const columns = grid.current?.exportState().columns;
    if (columns) localStorage.setItem(KEPT, JSON.stringify(columns));
  };
  return (
    <>
      {log.error && <Refusal which="These readings cannot be shown." allowed={log.error.message} />}
      <div className="loggrid">
        <DataGrid
          apiRef={grid}
          nonce={nonce}
          rows={log.data?.rows ?? []}
          columns={columns}
          loading={log.isFetching}
          initialState={initialState}
          showToolbar
          slotProps={{
            toolbar: {
              showQuickFilter: false,
              printOptions: { disableToolbarButton: true },
              csvOptions: { disableToolbarButton: true },
            },
          }}
          disableColumnMenu
          disableRowSelectionOnClick
          rowHeight={48}
          columnHeaderHeight={48}
          paginationMode="server"
          sortingMode="server"
          filterMode="server"
          rowCount={-1}
          paginationMeta={known ? { hasNextPage: after !== null } : {}}
          pageSizeOptions={[SIZE]}
          paginationModel={{ page, pageSize: SIZE }}
          onPaginationModelChange={(next) => {
            if (next.page === page + 1 && after !== null) turn([...marks.slice(0, page + 1), after]);
            if (next.page <= page || after !== null) open(next.page);
          }}
          sortModel={sorting}
          onSortModelChange={(model) => {
            sort(model);
            again();
          }}
          filterModel={filters}
          onFilterModelChange={(model) => {
            filter(model);
            onWhere(whereOf(model, system));
            again();
          }}
          onColumnVisibilityModelChange={() => setTimeout(keep)}
          onColumnWidthChange={() => setTimeout(keep)}
          onRowClick={({ row }) => void go(`/loops/${row.loop_id}/history`)}
          getRowClassName={({ row }) => (row.flags.length > 0 ? 'flagged' : '')}
          localeText={{ noRowsLabel: 'No readings match.', noResultsOverlayLabel: 'No readings match.' }}
        />
      </div>
    </>
  );
}
