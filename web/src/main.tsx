import 'antd/dist/reset.css';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { Frame } from './frame/frame';
import { startTexts } from './texts/i18n';

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 10_000 } } });

await startTexts();
createRoot(document.getElementById('root') as HTMLElement).render(
  <QueryClientProvider client={queries}>
    <BrowserRouter>
      <Frame />
    </BrowserRouter>
  </QueryClientProvider>,
);
