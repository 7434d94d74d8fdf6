import { QueryClient } from '@tanstack/react-query';
import { ApiProblem } from './problem';

/** What is known of the server's state. */
export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 2000,
      retry: (count, error) => count < 2 && error instanceof ApiProblem && error.away,
      retryDelay: 500,
    },
  },
});
