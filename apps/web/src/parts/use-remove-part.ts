import { useMutation, useQueryClient } from '@tanstack/react-query';
import { removePart, restorePart, type PartSummary } from '../api/parts';
import { tell, tellError } from '../state/view-store';

/** Takes parts of a kind out of the library, each with a way back. */
export function useRemovePart(kind: PartSummary['kind']) {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: ['parts', kind] });
  return useMutation({
    mutationFn: ({ id }: PartSummary) => removePart(id),
    onSuccess: (_done, part) => {
      tell(`“${part.name}” was removed from the library.`, {
        label: 'Undo',
        run: () => {
          restorePart(part.id).then(refresh, tellError);
        },
      });
      return refresh();
    },
    onError: tellError,
  });
}
