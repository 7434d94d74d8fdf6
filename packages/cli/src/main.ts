#!/usr/bin/env node
import { Command } from 'commander';
import { explainError } from '@abyssal/core';
import { check } from './commands/check.js';
import { compare } from './commands/compare.js';
import { fit } from './commands/fit.js';
import { grit, type GritFlags } from './commands/grit.js';
import { lock } from './commands/lock.js';
import { measure } from './commands/measure.js';
import { mend } from './commands/mend.js';
import { render, type RenderFlags } from './commands/render.js';
import { sounding } from './commands/sounding.js';
import { systems } from './commands/systems.js';
import { translate, type TranslateFlags } from './commands/translate.js';

const print = (value: unknown) => {
  process.stdout.write(`${JSON.stringify(value, null, 2)}\n`);
};

const program = new Command('abyssal').description(
  'Designs bass sounds and measures how they fit: the core from a shell.',
);
program
  .command('render <sound>')
  .description('render the loop of a sound file to WAV')
  .requiredOption('--out <dir>', 'folder for the files')
  .option('--stems', 'kick, bass and each layer as well; the layers add up to the bass')
  .option('--dry-stems', 'the same, each layer as it goes into grit')
  .option('--rate <hz>', 'sample rate', '48000')
  .option('--bits <bits>', '16, 24 or 32f', '24')
  .action(async (sound: string, flags: RenderFlags) => {
    print(await render(sound, flags));
  });
program
  .command('measure <wav>')
  .description('measure a WAV file')
  .action(async (wav: string) => {
    print(await measure(wav));
  });
program
  .command('lock <kick> <bass>')
  .description('measure how a bass locks with a kick')
  .option('--below <hz>', 'compare below', '120')
  .action(async (kick: string, bass: string, flags: { below: string }) => {
    print(await lock(kick, bass, flags));
  });
program
  .command('fit <sound>')
  .description('find what makes bass and kick agree, and apply the best of it')
  .requiredOption('--apply <file>', 'where the changed sound is written')
  .option('--kick <wav>', 'a WAV to be the kick')
  .action(async (sound: string, flags: { apply: string; kick?: string }) => {
    print(await fit(sound, flags));
  });
program
  .command('grit <chain> <wav>')
  .description('run a chain, or all of grit, over a WAV file')
  .requiredOption('--out <wav>', 'where the result is written')
  .option('--tempo <bpm>', 'beats a minute, for delays in beats', '140')
  .option('--seed <n>', 'starting point of all that is random', '1')
  .action(async (chain: string, wav: string, flags: GritFlags) => {
    print(await grit(chain, wav, flags));
  });
program
  .command('systems')
  .description('list the playback systems with their numbers')
  .action(() => {
    print(systems());
  });
program
  .command('translate <wav>')
  .description('say what a listener gets of a note on each playback system')
  .requiredOption('--note <note>', 'the note that the file holds, such as F1')
  .option('--systems <ids>', 'only these, such as laptop,phone')
  .action(async (wav: string, flags: TranslateFlags) => {
    print(await translate(wav, flags));
  });
program
  .command('sounding <sound>')
  .description('measure everything of a sound against its targets')
  .option('--kick <wav>', 'a WAV to be the kick')
  .action(async (sound: string, flags: { kick?: string }) => {
    print(await sounding(sound, flags));
  });
program
  .command('mend <sound>')
  .description('mend what falls short as far as that goes without harm')
  .requiredOption('--apply <file>', 'where the changed sound is written')
  .option('--kick <wav>', 'a WAV to be the kick')
  .action(async (sound: string, flags: { apply: string; kick?: string }) => {
    print(await mend(sound, flags));
  });
program
  .command('compare <a> <b>')
  .description('set two sounds or WAV files side by side, and by thirds of an octave at one loudness')
  .action(async (a: string, b: string) => {
    print(await compare(a, b));
  });
program
  .command('check <sound>')
  .description('check a sound file')
  .action(async (sound: string) => {
    const result = await check(sound);
    print(result);
    if (!result.valid) {
      const [first] = result.problems;
      process.stderr.write(`not valid: ${first.path ? `${first.path}: ` : ''}${first.message}\n`);
      process.exitCode = 1;
    }
  });

program.parseAsync().catch((error: unknown) => {
  process.stderr.write(
    `${explainError(error) ?? (error instanceof Error ? error.message : String(error))}\n`,
  );
  process.exitCode = 1;
});
