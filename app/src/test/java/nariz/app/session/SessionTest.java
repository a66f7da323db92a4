package nariz.app.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import nariz.advice.Verdict;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** The view model without a window: the test plays the interface thread. */
public class SessionTest {
    private final LinkedBlockingQueue<Runnable> toInterface = new LinkedBlockingQueue<>();
    private Session session;

    @BeforeMethod
    void start() {
        toInterface.clear();
        session = new Session(toInterface::add);
    }

    @AfterMethod
    void end() {
        session.close();
    }

    private void work() {
        try {
            Runnable r = toInterface.poll(60, TimeUnit.SECONDS);
            assertThat(r).as("work that came back").isNotNull();
            r.run();
        } catch (InterruptedException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    public void demoOpensAtTheBlamedStop() {
        session.openDemo();
        assertThat(session.busyProperty().get()).isNotEmpty();
        assertThat(session.driveProperty().get()).isNull();
        work();
        assertThat(session.busyProperty().get()).isEmpty();
        assertThat(session.driveProperty().get().analysis().advice().verdict()).isEqualTo(Verdict.CHANGE);
        assertThat(session.stopProperty().get()).isEqualTo(Stop.TRANSFER);
        assertThat(session.cursorProperty().get()).isPositive();
    }

    @Test
    public void cancelledWorkNeverArrives() throws InterruptedException {
        session.openDemo();
        session.cancel();
        assertThat(session.busyProperty().get()).isEmpty();
        Runnable late = toInterface.poll(5, TimeUnit.SECONDS);
        if (late != null) {
            late.run();
        }
        assertThat(session.driveProperty().get()).isNull();
    }

    @Test
    public void badFilesLeaveTheOpenDriveAlone() throws IOException {
        session.openDemo();
        work();
        Session.Drive open = session.driveProperty().get();
        Path sheet = Files.createTempFile("nariz", ".json");
        Path log = Files.createTempFile("nariz", ".csv");
        for (Malformed.Case c : Malformed.all()) {
            Files.write(sheet, c.sheet() ? c.content() : Samples.sheet().getBytes(StandardCharsets.UTF_8));
            Files.write(log, c.sheet() ? Samples.log().getBytes(StandardCharsets.UTF_8) : c.content());
            session.open(sheet, log);
            assertThat(session.problemProperty().get()).isEmpty();
            work();
            assertThat(session.problemProperty().get()).as(c.toString()).contains(": found ");
            assertThat(session.busyProperty().get()).isEmpty();
            assertThat(session.driveProperty().get()).isSameAs(open);
        }
        Files.delete(sheet);
        Files.delete(log);
    }

    @Test
    public void ownFilesOpen() throws IOException {
        Path sheet = Files.createTempFile("nariz", ".json");
        Path log = Files.createTempFile("nariz", ".csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        session.open(sheet, log);
        work();
        assertThat(session.problemProperty().get()).isEmpty();
        assertThat(session.driveProperty().get().sheet().name()).isEqualTo("test six");
        Files.delete(sheet);
        Files.delete(log);
    }

    @Test
    public void cursorStaysInsideTheLog() {
        session.moveCursor(5);
        assertThat(session.cursorProperty().get()).isZero();
        session.openDemo();
        work();
        session.moveCursor(-9);
        assertThat(session.cursorProperty().get()).isZero();
        session.moveCursor(Integer.MAX_VALUE);
        assertThat(session.cursorProperty().get()).isEqualTo(session.driveProperty().get().log().size() - 1);
    }

    @Test
    public void everyStopHasASentence() {
        session.openDemo();
        work();
        for (Stop s : Stop.values()) {
            StopWords w = StopWords.of(session.driveProperty().get().analysis().advice(), s);
            assertThat(w.sentence()).as(s.label()).endsWith(".").doesNotContain("!").doesNotContain("null");
        }
        StopWords power = StopWords.of(session.driveProperty().get().analysis().advice(), Stop.POWER);
        assertThat(power.changes()).hasSize(1);
    }

    @Test
    public void mixturesShowInEitherUnit() {
        assertThat(MixtureUnit.LAMBDA.text(0.952)).isEqualTo("0.95");
        assertThat(MixtureUnit.AFR.text(0.952)).isEqualTo("14.0");
        assertThat(MixtureUnit.AFR.text(Double.NaN)).isEqualTo("–");
    }

    @Test
    public void boundariesLieWhereTheSheetSays() {
        session.openDemo();
        work();
        Boundaries b = session.driveProperty().get().today();
        assertThat(b.enrichmentPa() / 3386.389).isBetween(2.5, 4.5);
        double last = 0;
        for (int i = 10; i < b.size(); i++) {
            // With more speed there is more air at the same vacuum: the slot hands over at higher vacuum.
            assertThat(b.slotToMainPa(i)).isGreaterThanOrEqualTo(last);
            last = b.slotToMainPa(i);
        }
    }
}
