import { LONGEST_NAME } from '@abyssal/core';
import { Box, Button, IconButton, Tooltip, Typography } from '@mui/material';
import { useColorScheme } from '@mui/material/styles';
import { AppWindow, CircleHelp, Moon, Redo2, Sun, Undo2, type LucideIcon } from 'lucide-react';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { useOtherWindows } from '../browser/windows';
import { STATIONS } from '../stations';
import { cutText } from '../state/cut-text';
import { edit, redo, undo, useSound, useDocumentStore } from '../state/document-store';
import { useSession, type SaveState } from '../state/session';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { NUMERALS } from '../theme/theme';
import { BounceDialog } from './BounceDialog';
import { TagsButton } from './TagsButton';

const SAVE_WORDS: Record<SaveState, string> = {
  saved: 'saved',
  unsaved: 'not saved yet',
  saving: 'saving',
  away: 'kept in browser',
  failed: 'not saved',
  conflict: 'saved elsewhere',
  deleted: 'deleted',
  refused: 'not saved',
};

export function SchemeButton() {
  const { mode, setMode } = useColorScheme();
  const night = mode === 'dark';
  return (
    <Tooltip title={night ? 'Switch to paper' : 'Switch to night watch'}>
      <IconButton
        size="small"
        aria-label={night ? 'Switch to paper' : 'Switch to night watch'}
        onClick={() => {
          setMode(night ? 'light' : 'dark');
        }}
      >
        {night ? <Sun size={15} /> : <Moon size={15} />}
      </IconButton>
    </Tooltip>
  );
}

export function NameMark() {
  return (
    <Typography
      component={Link}
      to="/"
      sx={{
        fontFamily: NUMERALS,
        fontStyle: 'italic',
        fontWeight: 600,
        fontSize: TYPE.title,
        lineHeight: 1.2,
        color: sea.ink,
        textDecoration: 'none',
        display: 'inline-block',
        minHeight: 24,
      }}
    >
      Abyssal
    </Typography>
  );
}

/** Whether the work is saved. */
function SaveStatus() {
  const { version, save, reason } = useSession();
  const away = save !== 'saved' && save !== 'unsaved' && save !== 'saving';
  return (
    <Tooltip title={reason ?? `version ${version}`}>
      <Box
        component="span"
        role="status"
        data-save={save}
        sx={{ fontSize: TYPE.note, whiteSpace: 'nowrap', color: away ? sea.short : sea.ink2 }}
      >
        {save === 'saved' ? `v${version} · saved` : SAVE_WORDS[save]}
      </Box>
    </Tooltip>
  );
}

/** Says that other windows have this sound open, and whether one of them has work that is not saved yet. */
function OtherWindows() {
  const { editing } = useOtherWindows();
  if (editing.size === 0) return null;
  const busy = [...editing.values()].some(Boolean);
  const title = busy
    ? 'Another window has changes of this sound that are not saved yet.'
    : 'Another window has this sound open too. What either saves shows in both.';
  return (
    <Tooltip title={title}>
      <Box
        component="span"
        role="status"
        aria-label={title}
        sx={{
          display: 'inline-flex',
          alignItems: 'center',
          gap: '3px',
          ml: 'auto',
          fontSize: TYPE.note,
          color: busy ? sea.short : sea.ink2,
        }}
      >
        <AppWindow size={13} aria-hidden />
        {editing.size + 1}
      </Box>
    </Tooltip>
  );
}

function SoundName() {
  const name = useSound((sound) => sound.name);
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: '4px',
        fontSize: TYPE.note,
        color: sea.ink2,
        minWidth: 0,
      }}
    >
      <Box
        component="input"
        aria-label="Name of the sound"
        value={name}
        spellCheck={false}
        onChange={(event) => {
          const typed = cutText('A name', event.target.value, LONGEST_NAME);
          edit(
            'name',
            (draft) => {
              draft.name = typed;
            },
            'name',
          );
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') event.currentTarget.blur();
        }}
        sx={{
          font: 'inherit',
          color: sea.ink,
          border: 0,
          p: 0,
          height: 24,
          bgcolor: 'transparent',
          minWidth: 40,
          fieldSizing: 'content',
          maxWidth: 170,
          textOverflow: 'ellipsis',
          '&:focus': { outline: 'none', borderBottom: `1px solid ${sea.note}` },
        }}
      />
      <TagsButton />
    </Box>
  );
}

/**
 * What the page is, for those who hear it read: nothing that is seen, since the name and the marked station
 * say it.
 */
function PageTitle() {
  const name = useSound((sound) => sound.name);
  const path = useLocation().pathname.split('/')[3];
  return (
    <Box
      component="h1"
      sx={{
        position: 'absolute',
        width: '1px',
        height: '1px',
        m: '-1px',
        p: 0,
        overflow: 'hidden',
        clipPath: 'inset(50%)',
        whiteSpace: 'nowrap',
      }}
    >
      {name}, {STATIONS.find((station) => station.path === path)?.name}
    </Box>
  );
}

/** The stations over a chart's scale bar, the present one marked below. */
function StationBar() {
  const { pathname } = useLocation();
  const [, , id, here] = pathname.split('/');
  return (
    <Box
      component="nav"
      aria-label="Stations"
      sx={{
        display: 'grid',
        gridTemplateColumns: `repeat(${STATIONS.length}, 1fr)`,
        m: '0 18px',
        alignContent: 'end',
      }}
    >
      {STATIONS.map(({ path, name }, i) => (
        <Box
          key={path}
          component={Link}
          to={`/sounds/${id}/${path}`}
          aria-current={path === here ? 'page' : undefined}
          sx={{
            textDecoration: 'none',
            color: path === here ? sea.ink : sea.ink2,
            fontWeight: path === here ? 600 : 400,
            textAlign: 'center',
            fontSize: TYPE.name,
          }}
        >
          <Box sx={{ pb: '2px' }}>{name}</Box>
          <Box
            sx={{
              height: 8,
              border: `1px solid ${sea.ink}`,
              ml: i === 0 ? 0 : '-1px',
              bgcolor: i % 2 === 0 ? sea.ink : sea.sheet,
            }}
          />
          <Box sx={{ height: 13, display: 'grid', placeContent: 'start center', pt: '3px' }}>
            {path === here && (
              <svg width="12" height="7" aria-hidden>
                <path d="M0 7 6 0 12 7z" fill={sea.note} />
              </svg>
            )}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

/** Undo or redo: its name, or where the page is narrow a sign for it. */
function StepButton({
  name,
  icon: Icon,
  title,
  disabled,
  onClick,
}: {
  readonly name: string;
  readonly icon: LucideIcon;
  readonly title: string;
  readonly disabled: boolean;
  readonly onClick: () => void;
}) {
  return (
    <Tooltip title={title}>
      <span>
        <Button
          disabled={disabled}
          onClick={onClick}
          aria-label={name}
          sx={{ color: sea.ink2, '@media (max-width: 1023px)': { minWidth: 28, p: 0 } }}
        >
          <Box component="span" sx={{ '@media (max-width: 1023px)': { display: 'none' } }}>
            {name}
          </Box>
          <Box component={Icon} size={15} sx={{ '@media (min-width: 1024px)': { display: 'none' } }} />
        </Button>
      </span>
    </Tooltip>
  );
}

/** The head of a sound. */
export function Head() {
  const undoable = useDocumentStore(({ past }) => past[past.length - 1]?.label);
  const redoable = useDocumentStore(({ future }) => future[0]?.label);
  const [bouncing, setBouncing] = useState(false);
  const edge = { borderBottom: `1px solid ${sea.ink}`, bgcolor: sea.sheet };
  return (
    <>
      <Box
        sx={{
          ...edge,
          p: '2px 14px',
          minWidth: 0,
          borderRight: `1px solid ${sea.rule}`,
          '@media (max-width: 1023px)': { p: '2px 8px' },
        }}
      >
        <PageTitle />
        <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: '6px' }}>
          <NameMark />
          <OtherWindows />
          <SaveStatus />
        </Box>
        <SoundName />
      </Box>
      <Box sx={{ ...edge, display: 'grid' }}>
        <StationBar />
      </Box>
      <Box
        sx={{
          ...edge,
          borderLeft: `1px solid ${sea.rule}`,
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'flex-end',
          gap: '3px',
          pr: '14px',
        }}
      >
        <Tooltip title="Keys, and what this station is for (?)">
          <IconButton
            size="small"
            aria-label="Keys and help"
            onClick={() => {
              useView.setState({ keysShown: true });
            }}
          >
            <CircleHelp size={15} />
          </IconButton>
        </Tooltip>
        <SchemeButton />
        <StepButton
          name="Undo"
          icon={Undo2}
          title={undoable ? `Undo ${undoable} (Ctrl+Z)` : 'Nothing to undo'}
          disabled={!undoable}
          onClick={undo}
        />
        <StepButton
          name="Redo"
          icon={Redo2}
          title={redoable ? `Redo ${redoable} (Ctrl+Shift+Z)` : 'Nothing to redo'}
          disabled={!redoable}
          onClick={redo}
        />
        <Button
          variant="contained"
          onClick={() => {
            setBouncing(true);
          }}
        >
          Bounce
        </Button>
      </Box>
      {bouncing && (
        <BounceDialog
          onClose={() => {
            setBouncing(false);
          }}
        />
      )}
    </>
  );
}
