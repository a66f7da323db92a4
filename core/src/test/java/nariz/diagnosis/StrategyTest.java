package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.carburetor.SheetDraft;
import nariz.sim.DemoDrive;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Whose targets count: the sheet's, and what it leaves out is its starting point's. */
public class StrategyTest {
    private static BuildSheet wanting(String... pathsAndValues) {
        SheetDraft d = SheetDraft.of("demo", DemoDrive.sheetJson());
        for (int i = 0; i < pathsAndValues.length; i += 2) {
            d.set("targets." + pathsAndValues[i], pathsAndValues[i + 1]);
        }
        return BuildSheetReader.parse("own", d.json());
    }

    @Test
    public void aSheetWithoutTargetsHasTheUsualOnes() {
        assertThat(Strategy.of(DemoDrive.sheet())).isSameAs(Strategy.BALANCED);
        assertThat(Strategy.of(wanting("from", "economy"))).isSameAs(Strategy.ECONOMY);
    }

    @Test
    public void whatIsWrittenReplacesItsAnchorOnly() {
        Strategy s = Strategy.of(wanting("from", "climb", "idle", "13.5 AFR", "light", "0,99"));
        assertThat(s.name()).isEqualTo("climb-own");
        assertThat(s.anchors(true)).containsEntry("moderate", 0.94).containsEntry("full", 0.85)
                .containsEntry("light", 0.99);
        assertThat(s.anchors(true).get("idle")).isEqualTo(13.5 / 14.7, within(1e-12));
        assertThat(s.anchors(false)).as("a light load of one's own goes for either advance").containsEntry("light",
                0.99);
    }

    @Test
    public void moderateLoadMayBeWantedLeanerThanLightLoad() {
        Strategy s = Strategy.of(wanting("light", "0.92 lambda", "moderate", "0.97 lambda"));
        assertThat(s.atLoad(0.5, true)).isEqualTo(0.92);
        assertThat(s.atLoad(0.75, true)).isEqualTo(0.97);
    }

    @Test
    public void theAnswerIsJudgedByThem() {
        var log = DemoDrive.drive().log();
        BuildSheet rich = wanting("idle", "0.85 lambda");
        Advice usual = Analysis.of(Request.of(DemoDrive.sheet(), log), () -> false).advice();
        Advice own = Analysis.of(Request.of(rich, log), () -> false).advice();
        RegimeError before = usual.predicted().getFirst().before();
        RegimeError after = own.predicted().getFirst().before();
        assertThat(before.regime()).isEqualTo(Regime.IDLE);
        assertThat(after.target()).isEqualTo(0.85, within(1e-3));
        assertThat(after.lambda()).isEqualTo(before.lambda(), within(1e-9));
        assertThat(after.mean() - before.mean()).as("leaner against a richer wish").isGreaterThan(0.08);
        assertThat(own.strategy()).isEqualTo("balanced-own");
    }

    @Test
    public void targetsFollowTheAnchorsOfTheStrategy() {
        Strategy s = Strategy.BALANCED;
        assertThat(s.atLoad(0.4, true)).isEqualTo(1.02);
        assertThat(s.atLoad(0.4, false)).isEqualTo(0.95);
        assertThat(s.atLoad(0.65, true)).isEqualTo(0.99, within(1e-9));
        assertThat(s.atLoad(0.75, true)).isEqualTo(0.96);
        assertThat(s.atLoad(0.84, true)).isEqualTo(0.915, within(1e-9));
        assertThat(s.atLoad(0.95, true)).isEqualTo(0.87);
    }

    @DataProvider
    public Object[][] refused() {
        return new Object[][] {
            {"full", "1.2 lambda", "outside"}, {"idle", "13.8 lambda", "AFR"}, {"light", "lean", "AFR"},
            {"from", "brave", "climb"},
        };
    }

    @Test(dataProvider = "refused")
    public void aTargetThatWouldHurtOrMeansNothingIsRefusedWithItsPlace(String field, String value, String remedy) {
        assertThatThrownBy(() -> wanting(field, value)).isInstanceOf(InputProblem.class).hasMessageContaining(
                "targets." + field).hasMessageContaining(remedy);
    }
}
