import { makeClosestMatch } from '@mappa/core/text/closest-match'
import type { Command } from 'commander'

/**
 * Prepares a command that has others below it: alone, it prints its help, and a name that is none of theirs is a usage error with the
 * closest one.
 *
 * @param alone what it does where it is called with options alone
 */
export function withSubcommands<Options>(
  command: Command,
  alone?: (options: Options) => Promise<void> | void,
): Command {
  return command
    .helpCommand(false)
    .allowExcessArguments()
    .action(async (options: Options) => {
      const [name] = command.args
      if (name !== undefined) throw unknown(command, name)
      if (alone === undefined) command.help({ error: true })
      else await alone(options)
    })
}

function unknown(command: Command, name: string): never {
  const known = command.commands.map((each) => each.name())
  const near = makeClosestMatch(known)(name)
  const hint = near === null ? `It has ${known.join(', ')}.` : `Did you mean ${near}?`
  command.error(`error: mappa ${command.name()} has no command ${JSON.stringify(name.slice(0, 80))}. ${hint}`)
}
