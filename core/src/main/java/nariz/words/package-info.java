/**
 * The words of the program in the language it speaks. Text stands in resource bundles, one for every module; code names
 * it by key. English is the base and complete; another language that lacks a key falls back to it. What is written to
 * files for programs to read (keys, units, numbers) is the same in every language. Start at {@link nariz.words.Words}.
 */
package nariz.words;
