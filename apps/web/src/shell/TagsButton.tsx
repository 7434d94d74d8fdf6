import { LONGEST_NAME, LONGEST_TAG, MOST_TAGS } from '@abyssal/core';
import { Autocomplete, Box, Button, Chip, Popover, TextField } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { Tags } from 'lucide-react';
import { useState } from 'react';
import { listSounds } from '../api/sounds';
import { cutText } from '../state/cut-text';
import { edit, useSound } from '../state/document-store';
import { tell } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

const distinct = (words: readonly string[]) =>
  [...new Set(words.filter((word) => word !== ''))].sort((a, b) => a.localeCompare(b));

/**
 * Tags and author of the sound, by which the Library finds it; those of the sounds saved last are offered.
 */
export function TagsButton() {
  const tags = useSound((sound) => sound.tags);
  const author = useSound((sound) => sound.author);
  const [at, setAt] = useState<HTMLElement | null>(null);
  const { data } = useQuery({
    queryKey: ['sounds', '', '-updated', 'first'],
    queryFn: () => listSounds({ search: '', sort: '-updated', deleted: false }, null),
    enabled: at !== null,
  });
  const setTags = (next: readonly string[]) => {
    const kept = distinct(next.map((tag) => cutText('A tag', tag.trim().replace(/,/g, ' '), LONGEST_TAG)));
    if (kept.length > MOST_TAGS)
      tell(`A sound can have up to ${MOST_TAGS} tags; the last ones were left out.`);
    edit('tags', (draft) => {
      draft.tags = kept.slice(0, MOST_TAGS);
    });
  };
  return (
    <>
      <Button
        size="small"
        aria-label={`Tags and author: ${tags.length === 0 ? 'no tags' : tags.join(', ')}${author ? `; ${author}` : ''}`}
        aria-haspopup="dialog"
        title="Tags and author"
        onClick={(event) => {
          setAt(event.currentTarget);
        }}
        startIcon={<Tags size={13} />}
        sx={{
          color: sea.ink2,
          p: '0 4px',
          fontSize: TYPE.note,
          '& .MuiButton-startIcon': { mr: '3px', ml: 0 },
        }}
      >
        {tags.length}
      </Button>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => {
          setAt(null);
        }}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': 'Tags and author' } }}
      >
        <Box sx={{ p: 2, width: 320, display: 'grid', gap: 2 }}>
          <Autocomplete
            multiple
            freeSolo
            size="small"
            options={distinct((data?.items ?? []).flatMap((item) => item.tags)).filter(
              (tag) => !tags.includes(tag),
            )}
            value={[...tags]}
            onChange={(_event, next) => {
              setTags(next);
            }}
            renderValue={(chosen, getItemProps) =>
              chosen.map((tag, index) => {
                const { key, ...props } = getItemProps({ index });
                return <Chip key={key} label={tag} size="small" {...props} />;
              })
            }
            renderInput={(input) => (
              <TextField
                {...input}
                label="Tags"
                helperText="Enter or a comma ends a tag."
                onKeyDown={(event) => {
                  const typed = (event.target as HTMLInputElement).value;
                  if (event.key !== ',' || typed.trim() === '') return;
                  event.preventDefault();
                  setTags([...tags, typed]);
                }}
              />
            )}
          />
          <Autocomplete
            freeSolo
            size="small"
            options={distinct((data?.items ?? []).map((item) => item.author))}
            inputValue={author}
            onInputChange={(_event, next) => {
              if (next !== author)
                edit(
                  'author',
                  (draft) => {
                    draft.author = cutText('An author', next, LONGEST_NAME);
                  },
                  'author',
                );
            }}
            renderInput={(input) => <TextField {...input} label="Author" />}
          />
        </Box>
      </Popover>
    </>
  );
}
