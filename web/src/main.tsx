import 'antd/dist/reset.css';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { Refused } from './api';
import { Frame } from './frame/frame';
import { startTexts } from './texts/i18n';

// a register that is still being loaded is asked again until it is there
const again = (count: number, error: Error): boolean =>
  count < (error instanceof Refused && error.problems.some(({ code }) => code === 'starting') ? 20 : 1);
const queries = new QueryClient({ defaultOptions: { queries: { retry: again, staleTime: 10_000 } } });

await startTexts();
createRoot(document.getElementById('root') as HTMLElement).render(
  <QueryClientProvider client={queries}>
    <BrowserRouter>
      <Frame />
    </BrowserRouter>
  </QueryClientProvider>,
);
