import {
  CHAIN_FORMAT,
  CHAIN_VERSION,
  findChainProblems,
  placeName,
  unitName,
  type ChainFile,
  type UnitPlace,
} from '@abyssal/core';
import { Box, Button, IconButton, Tooltip } from '@mui/material';
import { useMutation, useQueries, useQuery } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { NoAnswer } from '../controls/NoAnswer';
import { fetchPart, listParts, type PartSummary } from '../api/parts';
import { NameField } from '../controls/NameField';
import { Panel } from '../controls/Panel';
import { fetchPartAs, keepInLibrary } from '../parts/kept-parts';
import { useRemovePart } from '../parts/use-remove-part';
import { chainByChance, useChainFigures } from '../sounding/chain-figures';
import { edit, presentSound, useSound } from '../state/document-store';
import { chainAt } from '../state/path';
import { mostUnits, setChain } from '../state/unit-edits';
import { tell, tellError, useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

/** So many kept chains are shown, newest first. */
const SHOWN = 12;
const HIGHEST_SEED = 9999;
const CHAINS = ['parts', 'chain'];

/** What is done with a chain as a whole: kept, fetched, made by chance. `place` is the chain that is looked at. */
export function ChainTools({ place }: { readonly place: UnitPlace }) {
  const name = useSound((sound) => placeName(sound, place));
  return (
    <Panel
      title="Chains"
      aside={<span>for {name === 'After the sum' ? 'what comes after the sum' : name}</span>}
    >
      <ByChance place={place} name={name} />
      <KeepRow place={place} />
      <KeptChains place={place} name={name} />
    </Panel>
  );
}

/** A chain by chance: from a new seed, or from one that is typed. */
function ByChance({ place, name }: { readonly place: UnitPlace; readonly name: string }) {
  const [seed, setSeed] = useState(1);
  const [busy, setBusy] = useState(false);
  const grow = (from: number) => {
    setSeed(from);
    setBusy(true);
    chainByChance(place, from, mostUnits(place))
      .then((units) => {
        let first: string | undefined;
        edit(`chain ${from} by chance on ${name.toLowerCase()}`, (draft) => {
          setChain(draft, place, units);
          if (place.in === 'clean path') draft.grit.cleanPath.alone = false;
          first = chainAt(draft, place).at(0)?.id;
        });
        useView.setState({ unitId: first ?? null, entry: 0 });
      }, tellError)
      .finally(() => {
        setBusy(false);
      });
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: '8px', minHeight: 28, flexWrap: 'wrap' }}>
      <Tooltip
        describeChild
        title="Units of chance by rules, as loud as what goes in; locked units stay. Undo brings back what was there."
      >
        <Button
          variant="outlined"
          disabled={busy}
          onClick={() => {
            grow(1 + Math.floor(Math.random() * HIGHEST_SEED));
          }}
        >
          {busy ? 'Trying…' : 'Try one at random'}
        </Button>
      </Tooltip>
      <Box
        component="label"
        sx={{ display: 'flex', alignItems: 'center', gap: '4px', color: sea.ink2, fontSize: TYPE.note }}
      >
        seed
        <Box
          component="input"
          inputMode="numeric"
          aria-label="Seed of the chain; Enter tries it"
          value={seed}
          disabled={busy}
          onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
            const typed = Number(event.target.value.replace(/\D/g, ''));
            setSeed(Math.min(HIGHEST_SEED, typed));
          }}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Enter' && !busy) grow(seed);
          }}
          sx={{
            width: 52,
            height: 24,
            font: 'inherit',
            color: sea.ink,
            textAlign: 'right',
            bgcolor: 'transparent',
            border: 0,
            borderBottom: `1px solid ${sea.rule}`,
          }}
        />
      </Box>
    </Box>
  );
}

/** Keeps the chain that is looked at under a name, with what it does here. */
function KeepRow({ place }: { readonly place: UnitPlace }) {
  const units = useSound((sound) => chainAt(sound, place));
  const [name, setName] = useState('New chain');
  const keep = useMutation({
    mutationFn: () => keepInLibrary('chain', name, asFile(place, name)),
    onSuccess: () => {
      tell(`${name} is kept in the library.`);
    },
    onError: tellError,
  });
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: '8px', minHeight: 28 }}>
      <Button
        variant="text"
        disabled={units.length === 0 || keep.isPending}
        onClick={() => {
          keep.mutate();
        }}
      >
        Keep this chain as
      </Button>
      <NameField label="Name of the chain" value={name} onChange={setName} />
    </Box>
  );
}

/** A chain as a file has it, with its figures where they are of what stands there now. */
function asFile(place: UnitPlace, name: string): ChainFile {
  const sound = presentSound();
  const units = chainAt(sound, place);
  const { units: measured, of } = useChainFigures.getState();
  const on = of === sound ? units.flatMap(({ id }) => measured?.get(id) ?? []) : [];
  const before = on.at(0)?.before;
  const after = on.at(-1)?.after;
  const known =
    before?.loudnessLufs != null &&
    after?.loudnessLufs != null &&
    before.crestDb !== null &&
    after.crestDb !== null;
  return {
    format: CHAIN_FORMAT,
    formatVersion: CHAIN_VERSION,
    name: name.slice(0, 40),
    units: structuredClone(units),
    figures: known
      ? { loudnessLu: after.loudnessLufs - before.loudnessLufs, crestDb: after.crestDb - before.crestDb }
      : null,
  };
}

/** The chains that were kept, each with its units and what it did where it was kept. */
function KeptChains({ place, name }: { readonly place: UnitPlace; readonly name: string }) {
  const remove = useRemovePart('chain');
  const { data, error, refetch } = useQuery({ queryKey: CHAINS, queryFn: () => listParts('chain') });
  const shown = (data ?? []).slice(0, SHOWN);
  const contents = useQueries({
    queries: shown.map(({ id }) => ({
      queryKey: ['part', id],
      queryFn: async () => (await fetchPart(id)).content as ChainFile,
      staleTime: Infinity,
    })),
  });
  const use = ({ id, name: kept }: PartSummary) => {
    fetchPartAs<ChainFile>(id, findChainProblems).then(({ units }) => {
      const most = mostUnits(place);
      let first: string | undefined;
      edit(`${kept} on ${name.toLowerCase()}`, (draft) => {
        setChain(draft, place, units.slice(0, most));
        if (place.in === 'clean path') draft.grit.cleanPath.alone = false;
        first = chainAt(draft, place).at(0)?.id;
      });
      useView.setState({ unitId: first ?? null, entry: 0 });
      if (units.length > most)
        tell(`${kept} has ${units.length} units; a chain here takes the first ${most}.`);
    }, tellError);
  };
  if (error) return <NoAnswer who="The library" again={refetch} />;
  if (data?.length === 0) return <Box sx={{ color: sea.ink2, fontSize: TYPE.note }}>No chains kept yet.</Box>;
  return (
    <Box
      component="ul"
      aria-label="Chains kept"
      sx={{ m: 0, p: 0, listStyle: 'none', maxHeight: 128, overflow: 'auto' }}
    >
      {shown.map((part, p) => (
        <Box
          component="li"
          key={part.id}
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: '6px',
            minHeight: 30,
            borderTop: `1px solid ${sea.hair}`,
          }}
        >
          <Box component="span" sx={{ fontWeight: 600, whiteSpace: 'nowrap' }}>
            {part.name}
          </Box>
          <Box
            component="span"
            title={contentWords(contents[p]?.data)}
            sx={{
              flex: 1,
              minWidth: 0,
              color: sea.ink2,
              fontSize: TYPE.note,
              whiteSpace: 'nowrap',
              overflow: 'hidden',
              textOverflow: 'ellipsis',
            }}
          >
            {contentWords(contents[p]?.data)}
          </Box>
          <Button
            variant="outlined"
            aria-label={`Put ${part.name} on ${name}`}
            sx={{ p: '0 6px', minWidth: 0 }}
            onClick={() => {
              use(part);
            }}
          >
            Use
          </Button>
          <IconButton
            size="small"
            aria-label={`Remove ${part.name} from the library`}
            disabled={remove.isPending}
            onClick={() => {
              remove.mutate(part);
            }}
          >
            <Trash2 size={14} />
          </IconButton>
        </Box>
      ))}
    </Box>
  );
}

const signed = (x: number) => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(1)}`;

function contentWords(chain: ChainFile | undefined): string {
  if (!chain) return '';
  const units = chain.units.map((unit) => unitName(chain.units, unit)).join(' · ');
  const { figures } = chain;
  return figures ? `${signed(figures.loudnessLu)} dB, crest ${signed(figures.crestDb)}: ${units}` : units;
}
