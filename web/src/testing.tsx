import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import { UnitsProvider } from './units/UnitsContext';

/** Render as inside the application: queries without retries, units. For tests only. */
export const inApp = (inside: React.ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <UnitsProvider>{inside}</UnitsProvider>
    </QueryClientProvider>,
  );
