package nariz.dynamics;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.CancellationException;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Part;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Previous;
import nariz.diagnosis.Request;
import nariz.diagnosis.Status;
import nariz.diagnosis.Verdict;
import nariz.exam.PracticeCase;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.units.Units;
import org.testng.annotations.Test;

/** Pumps of other laws than the model's, on the demo's engine with its steady mixtures put right. */
public class OpeningStudyTest {
    private static BuildSheet right() {
        BuildSheet s = MeteredParts.IDLE_FEED_RESTRICTION.fit(DemoDrive.sheet(), Stage.PRIMARY, 34);
        return MeteredParts.POWER_VALVE_RATING.fit(s, Stage.PRIMARY, 6.5);
    }

    private static Analysis driven(BuildSheet sheet, double slackDeg, long noise) {
        return driven(sheet, slackDeg, noise, List.of());
    }

    private static Analysis driven(BuildSheet sheet, double slackDeg, long noise, List<String> lookedFor) {
        PumpSetting p = sheet.carburetor().family().pumpSetting(sheet).orElseThrow();
        return Analysis.of(Request.of(sheet, new EngineSimulator(sheet, DemoDrive.SEED, Map.of(), noise).withPump(
                p.scaled(1.0, 1.0, slackDeg * Units.DEG, 0.3)).drive(DriveScript.twelveMinutes().then(
                DriveScript.openings()), 20, "openings").log()).withRuledOut(lookedFor), () -> false);
    }

    /** A made-up four-barrel whose openings suffer from ten degrees of slack, gentle ones most. */
    private static Analysis slack(double deg) {
        BuildSheet sheet = PracticeCase.of(19).healthy();
        PumpSetting p = sheet.carburetor().family().pumpSetting(sheet).orElseThrow();
        return Analysis.of(Request.of(sheet, new EngineSimulator(sheet, 19, Map.of(), 3).withPump(p.scaled(1.0, 1.0,
                deg * Units.DEG, 0.3)).drive(DriveScript.twelveMinutes().then(DriveScript.openings()), 20,
                "slack").log()).withRuledOut(Hypothesis.FAULTS), () -> false);
    }

    private static Optional<OpeningStudy.Finding> study(Analysis a) {
        return OpeningStudy.of(a.observation(), a.whatIf()::phi, a.tipIns(), false, () -> false);
    }

    /** What is known to burn is measured as what is modelled is, and the interval counts the model's own error. */
    @Test
    public void leanAreaOfAKnownMixtureIsMeasuredOverWhatIsSettledAndFelt() {
        Analysis a = driven(right(), 0.0, 3);
        OptionalDouble rich = OpeningStudy.lean(a.observation(), a.whatIf()::phi, a.tipIns(), t -> 0.9);
        assertThat(rich.orElseThrow()).isZero();
        // 1.3 s at the most at lambda 1.4, where nothing settles leaner than 1.1.
        double lean = OpeningStudy.lean(a.observation(), a.whatIf()::phi, a.tipIns(), t -> 1.4).orElseThrow();
        double leaner = OpeningStudy.lean(a.observation(), a.whatIf()::phi, a.tipIns(), t -> 1.5).orElseThrow();
        assertThat(lean).isBetween(0.3, 0.9);
        assertThat(leaner - lean).isBetween(0.05, 0.16);
        assertThat(OpeningStudy.lean(a.observation(), a.whatIf()::phi, a.tipIns().subList(0, 2), t -> 1.4)).isEmpty();
        double[] modelled = study(a).orElseThrow().lean();
        assertThat(modelled[1]).isLessThanOrEqualTo(modelled[0] * (1.0 - 1.6 * 0.35));
        assertThat(modelled[2]).isGreaterThanOrEqualTo(modelled[0] * (1.0 + 1.6 * 0.35));
    }

    /** Out of an overrun nothing is read of what follows; it is the hardest opening all the same. */
    @Test
    public void openingsThatAreNotReadAreFelt() {
        Analysis a = driven(right(), 0.0, 3);
        List<TipIn> read = a.tipIns().stream().filter(t -> new Stab(a.observation(), a.whatIf()::phi, t).usable())
                .toList();
        assertThat(read.size()).isLessThan(a.tipIns().size());
        OpeningStudy.Finding all = study(a).orElseThrow();
        OpeningStudy.Finding some = OpeningStudy.of(a.observation(), a.whatIf()::phi, read, false, () -> false)
                .orElseThrow();
        assertThat(all.openings()).as("weighed by what was read").isEqualTo(some.openings()).isEqualTo(read.size());
        assertThat(all.lean()[0]).isGreaterThan(1.1 * some.lean()[0]);
    }

    private static double chance(OpeningStudy.Finding f, OpeningStudy.Cause c) {
        return f.causes().getOrDefault(c, 0.0);
    }

    /**
     * Main jets small, nozzles small, the second stage let in early: the jets come first, then the pump; what is
     * trimmed after that is by a step, and an early second stage whose sag nobody feels is left alone.
     */
    @Test
    public void aHardCaseIsUntangledInTheOrderOfWork() {
        BuildSheet sheet = BuildSheetReader.parse("estate.json", DemoDrive.sheetJson().replace("37 thou", "34 thou")
                .replace("3.5 inHg", "6.5 inHg").replace("\"mechanical\"", "\"diaphragm\"").replace("\"spring\": 1",
                "\"spring\": 0.4").replace("61 thou", "57 thou").replace("\"nozzle\": \"35 thou\"",
                "\"nozzle\": \"18 thou\""));
        List<Part.Role> order = new ArrayList<>();
        List<String> checked = List.of();
        Analysis last = null;
        Optional<Previous> previous = Optional.empty();
        for (int round = 0; round < 6; round++) {
            PumpSetting p = sheet.carburetor().family().pumpSetting(sheet).orElseThrow();
            Request q = Request.of(sheet, new EngineSimulator(sheet, DemoDrive.SEED, Map.of(), 3 + round).withPump(
                    p.scaled(1.0, 1.0, 0.0, 0.3)).drive(DriveScript.twelveMinutes().then(DriveScript.openings())
                    .then(DriveScript.rollingPulls()), 20, "hard").log()).withRuledOut(checked);
            Analysis a = Analysis.of(previous.map(q::withPrevious).orElse(q), () -> false);
            previous = Previous.of(a.advice());
            if (a.advice().verdict() == Verdict.CHECK_FIRST && checked.isEmpty()) {
                // The float is looked at before a bowl is opened once more; no leak is, once the pump is fitted.
                String looked = a.advice().hypotheses().stream().filter(Hypothesis::fault).findFirst().orElseThrow()
                        .cause();
                assertThat(order.contains(Part.Role.PUMP_RATE) && !looked.equals("fuel-level")).isFalse();
                checked = Hypothesis.FAULTS;
                continue;
            }
            List<Part.Role> now = a.advice().changes().stream().filter(Change::now).map(c -> c.part().role()).toList();
            if (now.isEmpty()) {
                last = a;
                break;
            }
            assertThat(now).hasSizeLessThanOrEqualTo(2);
            order.addAll(now);
            sheet = a.sheetAfter();
        }
        assertThat(order).startsWith(Part.Role.METERING_FUEL).containsOnlyOnce(Part.Role.PUMP_RATE)
                .isSubsetOf(Part.Role.METERING_FUEL, Part.Role.ENRICHMENT_AMOUNT, Part.Role.IDLE_FUEL,
                        Part.Role.IDLE_MIXTURE, Part.Role.PUMP_RATE);
        // Behind the same bowl as the jets, so with them; never after the pump, and by a step.
        assertThat(order.lastIndexOf(Part.Role.ENRICHMENT_AMOUNT)).isLessThan(order.indexOf(Part.Role.PUMP_RATE));
        assertThat(MeteredParts.POWER_CHANNEL_RESTRICTION.of(sheet.carburetor(), Stage.PRIMARY)).isBetween(28.0, 30.0);
        assertThat(MeteredParts.MAIN_JET.of(sheet.carburetor(), Stage.PRIMARY)).isBetween(60.0, 62.0);
        assertThat(MeteredParts.IDLE_FEED_RESTRICTION.of(sheet.carburetor(), Stage.PRIMARY)).isBetween(33.0, 35.0);
        assertThat(MeteredParts.MIXTURE_SCREW.of(sheet.carburetor(), Stage.PRIMARY)).isBetween(2.25, 2.5);
        assertThat(MeteredParts.PUMP_NOZZLE.of(sheet.carburetor(), Stage.PRIMARY)).isBetween(28.0, 38.0);
        Advice done = Objects.requireNonNull(last).advice();
        assertThat(done.verdict()).isEqualTo(Verdict.LEAVE);
        SecondStageStudy.Finding second = done.dynamics().second().orElseThrow();
        assertThat(second.felt()).isEmpty();
        assertThat(second.events()).anyMatch(e -> e.sag() > 0.04);
    }

    @Test
    public void aSoundPumpIsLeftAlone() {
        OpeningStudy.Finding f = study(driven(right(), 0.0, 3)).orElseThrow();
        assertThat(f.openings()).isGreaterThan(8);
        assertThat(f.likeliest()).isEqualTo(OpeningStudy.Cause.SOUND);
        assertThat(f.change()).isEmpty();
        assertThat(f.leanAfter()).containsExactly(f.lean());
        assertThat(f.causes().values().stream().mapToDouble(p -> p).sum()).isEqualTo(1.0, within(1e-6));
        assertThat(f.hidden()).isBetween(0.0, 0.7);
    }

    @Test
    public void slackMakesSlackLikelierThanAnythingElseButSound() {
        OpeningStudy.Finding sound = study(slack(0.0)).orElseThrow();
        OpeningStudy.Finding slack = study(slack(10.0)).orElseThrow();
        assertThat(sound.change()).isEmpty();
        assertThat(slack.lean()[0]).isGreaterThan(sound.lean()[0]);
        assertThat(chance(slack, OpeningStudy.Cause.SLACK)).isGreaterThan(chance(sound, OpeningStudy.Cause.SLACK))
                .isGreaterThan(chance(slack, OpeningStudy.Cause.RATE) + chance(slack, OpeningStudy.Cause.VOLUME));
    }

    /** Slack that is likely and not sure enough for a spanner: a feeler gauge comes before the pump is called sound. */
    @Test
    public void slackThatIsNotSureIsLookedForFirst() {
        Advice a = driven(right(), 11.5, 3).advice();
        OpeningStudy.Finding f = a.pump().orElseThrow();
        assertThat(f.change()).isEmpty();
        assertThat(f.look()).contains(OpeningStudy.Cause.SLACK);
        assertThat(f.inDoubt()).contains(OpeningStudy.Cause.SLACK);
        assertThat(a.verdict()).isEqualTo(Verdict.CHECK_FIRST);
        assertThat(a.changes()).isEmpty();
        assertThat(a.hypotheses().getFirst().cause()).isEqualTo(Hypothesis.PUMP_SLACK);
        assertThat(a.hypotheses().getFirst().percent()).isEqualTo(f.percent(OpeningStudy.Cause.SLACK));
        assertThat(a.sentence().toString()).startsWith("Look at the accelerator pump's arm before anything else: "
                + f.percent(OpeningStudy.Cause.SLACK) + " % likely");
        assertThat(a.hypotheses().getFirst().evidence().toString()).contains("gently");
        assertThat(f.others().leanAfter()).as("taken up").isLessThan(f.others().lean());
        assertThat(a.finding(MeteredCircuits.PUMP).status()).isEqualTo(Status.IN_DOUBT);
        assertThat(a.finding(MeteredCircuits.PUMP).why().toString()).startsWith("the shot starts late: ");
        assertThat(a.lookedAtFirst()).contains(MeteredCircuits.PUMP);
        assertThat(AdviceJson.write(a)).contains("\"look\" : \"slack\"");
    }

    @Test
    public void whoLookedAndFoundNoSlackIsNotAskedAgain() {
        Advice a = driven(right(), 11.5, 3, List.of(Hypothesis.PUMP_SLACK)).advice();
        assertThat(a.verdict()).isEqualTo(Verdict.LEAVE);
        assertThat(a.looksAtPump()).isFalse();
        assertThat(a.pump().orElseThrow().causes()).doesNotContainKey(OpeningStudy.Cause.SLACK);
    }

    @Test
    public void aSoundPumpIsNotLookedAt() {
        Advice a = driven(right(), 0.0, 3).advice();
        assertThat(a.verdict()).isEqualTo(Verdict.LEAVE);
        assertThat(a.looksAtPump()).isFalse();
        assertThat(a.pump().orElseThrow().look()).isEmpty();
        assertThat(a.finding(MeteredCircuits.PUMP).status()).isEqualTo(Status.SETTLED);
        assertThat(AdviceJson.write(a)).contains("\"look\" : null");
    }

    /** Slack takes a tenth of a stab and the whole of a small movement: it is answered for the sake of those. */
    @Test
    public void slackIsAnsweredForWhatItDoesToAGentleFoot() {
        Analysis a = slack(10.0);
        OpeningStudy.Finding f = study(a).orElseThrow();
        assertThat(f.others().count()).isPositive();
        assertThat(f.change().map(OpeningStudy.Act::cause)).contains(OpeningStudy.Cause.SLACK);
        double gentle = f.others().lean() - f.others().leanAfter();
        assertThat(gentle).isGreaterThan(0.02).isGreaterThan(f.lean()[0] - f.leanAfter()[0]);
        assertThat(a.advice().changes().getFirst().reasons()).anyMatch(m -> m.toString().contains("gently"));
    }

    @Test
    public void gentleOpeningsBeginShutAndApartFromQuickOnes() {
        Analysis a = driven(right(), 0.0, 3);
        List<TipIn> gentle = GentleOpenings.of(a.observation(), a.tipIns());
        assertThat(gentle).isNotEmpty();
        double last = Double.NEGATIVE_INFINITY;
        for (TipIn g : gentle) {
            double open = a.observation().thetaRad(g.sample()) - a.observation().idleRad();
            assertThat(open).isLessThan(1.0 * Units.DEG);
            assertThat(g.atS() - last).isGreaterThan(2.0);
            assertThat(a.tipIns()).noneMatch(t -> Math.abs(t.atS() - g.atS()) < 2.0);
            last = g.atS();
        }
    }

    @Test
    public void slackThatWasTakenUpIsNotAdvisedAgain() {
        Analysis a = slack(10.0);
        OpeningStudy.Finding f = OpeningStudy.of(a.observation(), a.whatIf()::phi, a.tipIns(), true, () ->
                false).orElseThrow();
        assertThat(chance(f, OpeningStudy.Cause.SLACK)).isZero();
    }

    /** An idle that is off is so much fuel there, and next to nothing of what a wide throttle draws. */
    @Test
    public void whatIsWrongBehindShutPlatesFadesAsTheAirGrows() {
        Analysis a = driven(right(), 0.0, 3);
        Stab s = a.tipIns().stream().filter(TipIn::fromClosed).map(t -> new Stab(a.observation(), a.whatIf()::phi, t))
                .filter(x -> x.usable() && x.event().opened() > 0.3).findFirst().orElseThrow();
        int last = s.readings() - 1;
        int before = IntStream.range(0, last).filter(k -> s.afterS(k) > -0.1f).findFirst().orElseThrow();
        assertThat(PumpFit.stays(s, before)).isBetween(0.9, 1.0);
        assertThat(s.afterS(last)).isGreaterThan(0.8f);
        double air = s.air()[(int) s.gasStep(last)] / s.air()[Stab.START];
        assertThat(air).isGreaterThan(3.0);
        assertThat(PumpFit.stays(s, last)).isEqualTo(1.0 / air, within(1e-6));
    }

    /** A spring between arm and plunger holds the stream back; it takes nothing of it. */
    @Test
    public void streamThatLagsComesLaterAndWhole() {
        Analysis a = driven(right(), 0.0, 3);
        Stab s = a.tipIns().stream().map(t -> new Stab(a.observation(), a.whatIf()::phi, t)).filter(x -> x.usable()
                && x.event().opened() > 0.3).findFirst().orElseThrow();
        PumpSetting p = right().carburetor().family().pumpSetting(right()).orElseThrow();
        double[] stiff = volumeAndMoment(s, p, 0.02);
        double[] soft = volumeAndMoment(s, p, 0.12);
        assertThat(soft[0]).isCloseTo(stiff[0], within(0.02 * stiff[0]));
        assertThat(soft[1] - stiff[1]).isCloseTo(0.10, within(0.02));
    }

    /** Volume of the shots around an opening, and their mean time, s. */
    private static double[] volumeAndMoment(Stab s, PumpSetting p, double lagS) {
        float[] shot = new float[Stab.STEPS];
        StabModel.pump(s, p, lagS, 14.7, shot);
        double volume = 0.0;
        double moment = 0.0;
        for (int k = 0; k < shot.length; k++) {
            volume += shot[k];
            moment += shot[k] * k * Stab.STEP_S;
        }
        return new double[] {volume, moment / volume};
    }

    @Test
    public void nozzlesThatStarveItAreEnlargedTowardsTheUsualSize() {
        BuildSheet small = MeteredParts.PUMP_NOZZLE.fit(right(), Stage.PRIMARY, 20);
        Analysis a = driven(small, 0.0, 3);
        OpeningStudy.Finding f = study(a).orElseThrow();
        assertThat(f.likeliest()).isEqualTo(OpeningStudy.Cause.RATE);
        OpeningStudy.Act act = f.change().orElseThrow();
        double usual = small.carburetor().family().usual(small, MeteredParts.PUMP_NOZZLE).orElseThrow();
        assertThat(act.ladder().part()).isEqualTo(MeteredParts.PUMP_NOZZLE);
        assertThat(act.to()).isBetween(24.0, 1.2 * usual);
        assertThat(f.leanAfter()[0]).isLessThan(f.lean()[0]);
        assertThat(f.curve()[1][6]).as("with the change it is richer early in an opening").isLessThan(f.curve()[0][6]);
        BuildSheet mended = act.ladder().part().fit(small, act.ladder().stage(), act.to());
        assertThat(study(driven(mended, 0.0, 4)).orElseThrow().lean()[0]).isLessThan(f.lean()[0]);
    }

    @Test
    public void theAnswerNamesWhatTheActCuresAndIsWrittenByItsSchema() throws IOException {
        BuildSheet small = MeteredParts.PUMP_NOZZLE.fit(right(), Stage.PRIMARY, 20);
        Advice advice = driven(small, 0.0, 3).advice();
        assertThat(advice.verdict()).isEqualTo(Verdict.CHANGE);
        assertThat(advice.changes()).singleElement().satisfies(c -> {
            assertThat(c.part()).isEqualTo(MeteredParts.PUMP_NOZZLE);
            assertThat(c.now()).isTrue();
            assertThat(c.reasons()).isNotEmpty();
        });
        OpeningStudy.Finding f = advice.pump().orElseThrow();
        assertThat(f.answered()).isEqualTo(f.change().orElseThrow().cause());
        assertThat(advice.sentence().toString()).contains(f.answered().label().toString()).doesNotContain("100 %");
        assertThat(advice.finding(MeteredCircuits.PUMP).status()).isEqualTo(Status.OFF);
        Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(
                Files.readString(Path.of("../docs/formats/advice.schema.json")), InputFormat.JSON);
        assertThat(schema.validate(AdviceJson.write(advice), InputFormat.JSON)).isEmpty();
    }

    @Test
    public void workThatIsCancelledEnds() {
        Analysis a = driven(right(), 0.0, 3);
        assertThatThrownBy(() -> OpeningStudy.of(a.observation(), a.whatIf()::phi, a.tipIns(), false, () -> true))
                .isInstanceOf(CancellationException.class);
    }

    @Test
    public void tooFewOpeningsSayNothing() {
        Analysis a = driven(right(), 0.0, 3);
        List<TipIn> few = a.tipIns().subList(0, 2);
        assertThat(OpeningStudy.of(a.observation(), a.whatIf()::phi, few, false, () -> false)).isEmpty();
    }

    /** What goes in comes out: film and pump keep fuel, they do not make it. */
    @Test
    public void wallsAndPumpKeepTheBooks() {
        Analysis a = driven(right(), 0.0, 3);
        Stab s = a.tipIns().stream().map(t -> new Stab(a.observation(), a.whatIf()::phi, t)).filter(Stab::usable)
                .findFirst().orElseThrow();
        PumpSetting p = right().carburetor().family().pumpSetting(right()).orElseThrow();
        float[] shot = new float[Stab.STEPS];
        StabModel.pump(s, p, 0.02, 14.7, shot);
        double out = 0.0;
        for (float v : shot) {
            out += v * Stab.STEP_S / 14.7;
            assertThat(v / 14.7).isLessThanOrEqualTo(1.001 * p.rateKgPerS());
        }
        assertThat(out).isGreaterThan(0.0).isLessThan(3.0 * p.strokeKg());
        float[] burnt = new float[Stab.STEPS];
        StabModel.stream(s, shot, 0.9, 0.5, burnt);
        double later = 0.0;
        for (float v : burnt) {
            later += v * Stab.STEP_S / 14.7;
        }
        assertThat(later).isLessThanOrEqualTo(out * 1.001);
        StabModel.pump(s, p.scaled(1.0, 1.0, 2.0, p.refillS()), 0.02, 14.7, shot);
        assertThat(shot).as("slack beyond all travel lets nothing out").containsOnly(0f);
    }
}
