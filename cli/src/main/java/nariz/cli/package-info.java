/**
 * The command line: {@link nariz.cli.NarizCommand} and its subcommands, exit codes 0 (done), 2 (wrong arguments) and 3
 * (input that cannot be used; nothing is written).
 */
package nariz.cli;
