/**
 * Units of the trade and their conversion to SI.
 *
 * <p>Everything inside the core is SI: metre, kilogram, second, pascal, kelvin, radian. Engine speed is the one
 * exception and says so in its name ({@code rpm}). Conversion happens once, where a file is read or a result is
 * shown. Start with {@link nariz.units.Quantity} for text such as {@code "59 thou"} and
 * {@link nariz.units.Units} for factors.
 */
@NullMarked
package nariz.units;

import org.jspecify.annotations.NullMarked;
