package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.function.BooleanSupplier;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import nariz.app.state.BalanceWork;
import nariz.idle.ThrottleBalance;
import nariz.practice.WatchedBalance;
import nariz.sim.Demo;
import nariz.sim.RunningEngine;
import org.testng.annotations.Test;

/** Several carburetors in balance, in a fresh window each: practice through all stages, figures typed, own hand. */
public class BalanceJourneyTest extends LiveWindow {
    private static final int ROADSTER = 1;

    @Override
    int pace() {
        return 50;
    }

    private void type(String id, String text) {
        Hands.run(() -> ((TextField) window.lookup("#" + id)).setText(text));
    }

    private BalanceWork.Step step() {
        return Hands.onInterface(() -> session.live().balance().stepProperty().get());
    }

    private RunningEngine engine() {
        return session.live().engineProperty().get();
    }

    private void practise(String button, int demo) {
        beside();
        Hands.run(() -> ((ComboBox<?>) window.lookup("#live-demo")).getSelectionModel().select(demo));
        hands.click(button);
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Hands.settle();
    }

    private void end() {
        hands.click("live-end");
        Hands.waitFor("the end", () -> session.live().sheetProperty().get() == null);
    }

    private void measured() {
        hands.click("balance-measure");
        BooleanSupplier done = () -> !session.live().balance().stepProperty().get().measuring();
        Hands.waitFor("the meter", done);
        Hands.settle();
        // A reading of all three, each with what the meter showed.
        assertThat(step().shares()).hasSize(3);
        assertThat(step().measured()).hasSize(3).allSatisfy(f -> assertThat(f).isPositive());
    }

    @Test
    public void threeCarburetorsAreBalancedThroughAllStages() {
        practise("live-practice-balance", ROADSTER);
        RunningEngine e = engine();
        double found = WatchedBalance.worst(e, ThrottleBalance.Stage.LINKS_OFF);
        assertThat(found).isGreaterThan(0.05);
        assertThat(text("balance-next")).isEqualTo("Read every carburetor.");
        for (ThrottleBalance.Stage s : ThrottleBalance.Stage.values()) {
            assertThat(step().stage()).isEqualTo(s);
            for (int i = 0; i < 24; i++) {
                ThrottleBalance.Kind kind = step().move().kind();
                if (kind == ThrottleBalance.Kind.DONE || kind == ThrottleBalance.Kind.LEFT) {
                    break;
                }
                if (kind == ThrottleBalance.Kind.READ) {
                    measured();
                } else {
                    hands.click("balance-turned");
                    Hands.settle();
                }
            }
            assertThat(step().move().kind()).isEqualTo(ThrottleBalance.Kind.DONE);
            assertThat(text("balance-next")).startsWith("Balanced");
            assertThat(WatchedBalance.worst(e, s)).isLessThan(0.08);
            if (s != ThrottleBalance.Stage.FAST) {
                hands.click("balance-onward");
                Hands.settle();
            }
        }
        assertThat(session.live().marksProperty().get()).isEqualTo(3);
        assertThat(Hands.onInterface(() -> window.lookup("#balance-picture").getAccessibleText())).contains(
                "Carburetor 3: ");
        hands.click("balance-own-done");
        Hands.waitFor("the points", () -> said("balance-debrief").contains(
                "points of 100"));
        assertThat(text("balance-debrief")).contains("Idle: the worst was", "the guide makes");
        end();
    }

    @Test
    public void figuresTypedInAreTakenAndBadOnesSaid() {
        practise("live-practice-1", 2);
        hands.click("show-live-balance");
        Hands.settle();
        hands.click("balance-read");
        assertThat(session.problemProperty().get()).isEqualTo(
                "Carburetor 1 needs a figure above nought, at most 10000.");
        type("balance-1", "8,0");
        for (String bad : new String[] {"-3", "1e200", "a lot", ""}) {
            type("balance-2", bad);
            Hands.run(() -> session.complain(""));
            hands.click("balance-read");
            assertThat(session.problemProperty().get()).startsWith("Carburetor 2");
        }
        type("balance-2", "6.4");
        type("balance-with", "seven");
        hands.click("balance-read");
        assertThat(session.problemProperty().get()).isEqualTo(
                "rpm with meter: a speed between 200 and 8000, or nothing.");
        assertThat(step().shares()).isEmpty();
        type("balance-with", "");
        hands.click("balance-read");
        Hands.settle();
        assertThat(step().shares()).hasSize(2);
        assertThat(step().shares().get(1).read()).isCloseTo(6.4 / 7.2 - 1.0, within(1e-9));
        assertThat(text("balance-next")).startsWith("Stop of carburetor ");
        // The stop of the engine follows, and is asked for the other way when it is taken back.
        ThrottleBalance.Move m = step().move();
        double before = engine().stop(m.carburetor());
        // Neither button has to be found: W for what was turned, Z to take it back.
        Hands.run(() -> window.lookup("#balance-picture").requestFocus());
        hands.press(KeyCode.W);
        Hands.settle();
        assertThat(engine().stop(m.carburetor())).isEqualTo(before + m.turns());
        hands.press(KeyCode.Z);
        Hands.settle();
        assertThat(text("balance-why")).isEqualTo("The last turn is taken back.");
        hands.click("balance-turned");
        Hands.settle();
        assertThat(engine().stop(m.carburetor())).isEqualTo(before);
        assertThat(text("balance-turns")).contains("2 turns made.");
        end();
    }

    @Test
    public void ownHandCountsAndSpeedIsHeldAtTheLastStage() {
        practise("live-practice-balance", ROADSTER);
        RunningEngine e = engine();
        double before = e.stop(1);
        hands.click("balance-own-open-2");
        assertThat(e.stop(1)).isEqualTo(before + 0.125);
        Hands.run(() -> ((ComboBox<?>) window.lookup("#balance-stage")).getSelectionModel().select(2));
        Hands.waitFor("the speed", () -> session.live().nowProperty().get().rpm() > 2300);
        double link = e.link(2);
        hands.click("balance-own-shut-3");
        assertThat(e.link(2)).isEqualTo(link - 0.125);
        Hands.run(() -> ((ComboBox<?>) window.lookup("#balance-stage")).getSelectionModel().select(1));
        Hands.waitFor("the idle", () -> session.live().nowProperty().get().rpm() < 1500);
        hands.click("balance-own-done");
        Hands.waitFor("the points", () -> said("balance-debrief").contains(
                "points of 100"));
        assertThat(text("balance-debrief")).contains("Turns: 2;", "What to learn");
        end();
    }

    @Test
    public void oneCarburetorHasNothingToBalance() {
        beside();
        for (Demo d : Demo.values()) {
            Hands.run(() -> ((ComboBox<?>) window.lookup("#live-demo")).getSelectionModel().select(d.ordinal()));
            assertThat(Hands.onInterface(() -> ((Button) window.lookup("#live-practice-balance")).isDisabled()))
                    .isEqualTo(d.sheet().carburetor().count() == 1);
        }
        assertThat(Arrays.stream(Demo.values()).anyMatch(d -> d.sheet().carburetor().count() > 1)).isTrue();
    }
}
