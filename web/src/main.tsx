import '@fontsource-variable/archivo/standard.css';
import './theme/reset.css';
// shared styles in the order of the cascade; what stands beside a page or a stage comes with it
import './controls/text.css';
import './controls/controls.css';
import './controls/fields.css';
import './controls/strip.css';
import './controls/stageLine.css';
import './controls/answers.css';
import './controls/menu/menu.css';
import './controls/page.css';
import './controls/lists.css';
import './controls/editor.css';
import './figures/figures.css';
import './clocks/clocks.css';
import './bench/bench.css';
import './board/rows.css';
import './board/board.css';
import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { Refusal } from './api/client';
import { base, practiceRun } from './api/where';
import { answerElsewhere, nextTryIn } from './api/net';
import { App } from './App';
import { Patterns } from './figures/patterns';
import { nonce } from './theme/nonce';
import { theme } from './theme/theme';
import { UnitsProvider } from './units/UnitsContext';

const cache = createCache({ key: 't', nonce, prepend: true });
const client = new QueryClient({
  defaultOptions: {
    // asked whatever the browser believes of its network: this tablet may have the answer itself
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      retry: (count, error) => error instanceof Refusal && error.status === 0 && count < 2,
      retryDelay: nextTryIn,
      staleTime: 2_000,
    },
  },
});

// what works without a network is no part of the first page; where nothing answers at all it is waited for
// practice needs the server: only there is the machine that answers
if (practiceRun === null) {
  const offline = import('./offline/boot');
  answerElsewhere(offline.then((part) => part.elsewhere));
  void offline.then((part) => part.boot(client));
}

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <CacheProvider value={cache}>
      <ThemeProvider theme={theme} defaultMode="system">
        <CssBaseline />
        <QueryClientProvider client={client}>
          <UnitsProvider>
            <BrowserRouter basename={base || undefined}>
              <Patterns />
              <App />
            </BrowserRouter>
          </UnitsProvider>
        </QueryClientProvider>
      </ThemeProvider>
    </CacheProvider>
  </StrictMode>,
);
