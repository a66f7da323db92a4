/**
 * Codes and words. What the core finds and refuses is a {@link nariz.text.Message}: a code with its values, the same in
 * every language. {@link nariz.text.Wording} (a language and units) turns it into text at the moment of showing; text
 * stands in resource bundles, one a module, English as the base and complete. What is written to files for programs to
 * read (keys, units, numbers) is the same in every language.
 */
@NullMarked
package nariz.text;

import org.jspecify.annotations.NullMarked;
