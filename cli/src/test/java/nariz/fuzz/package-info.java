/** Damages everything that comes from outside, seeded, and looks at what the program makes of it. */
package nariz.fuzz;
