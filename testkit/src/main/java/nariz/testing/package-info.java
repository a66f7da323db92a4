/** Input for the tests of all modules: {@link nariz.testing.Samples} good, {@link nariz.testing.Malformed} bad. */
package nariz.testing;
