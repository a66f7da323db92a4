package nariz.app.state;

import static org.testng.Assert.assertEquals;

import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class IdleWorkTest {
    @DataProvider
    Object[][] turns() {
        return new Object[][] {{0.03125, "a thirty-second"}, {-0.0625, "a sixteenth"}, {0.125, "an eighth"},
            {-0.1875, "3/16 of a turn"}, {0.25, "a quarter"}, {0.375, "3/8 of a turn"}, {0.5, "half a turn"},
            {0.75, "3/4 of a turn"}, {1.0, "one turn"}, {-1.0625, "1 1/16 turns"}, {1.5, "1 1/2 turns"},
            {2.0, "2 turns"}};
    }

    @Test(dataProvider = "turns")
    public void turnsAreSaidAsPeopleSayThem(double turns, String said) {
        assertEquals(IdleWork.fraction(turns), said);
    }
}
