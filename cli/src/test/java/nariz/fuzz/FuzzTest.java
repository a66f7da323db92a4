package nariz.fuzz;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import org.testng.annotations.Test;

/**
 * Hostile input, a few hundred of it with every build. Many thousands: {@code mvn -Pfuzz -Dnariz.fuzz=100000}; other
 * ones: {@code -Dnariz.fuzz.seed=2}; one alone: {@code -Dnariz.fuzz.from=4711 -Dnariz.fuzz=1}.
 */
public class FuzzTest {
    @Test
    public void hostileInputEndsInAResultOrAMessage() throws IOException {
        int count = Integer.getInteger("nariz.fuzz", 600);
        Fuzz f = new Fuzz(Long.getLong("nariz.fuzz.seed", 1));
        f.run(Long.getLong("nariz.fuzz.from", 0), count);
        if (count > 600) {
            System.out.println(f.report());
        }
        assertThat(f.failures().size()).as(f.report()).isZero();
    }
}
