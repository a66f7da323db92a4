package nariz;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.testng.annotations.Test;

/** Arrows go one way, and the core has no face. */
public class StructureTest {
    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPath(Path.of("target/classes"));

    @Test
    public void packagesFormNoCycle() {
        assertThat(CORE.size()).isGreaterThan(50);
        slices().matching("nariz.(*)..").should().beFreeOfCycles().check(CORE);
    }

    @Test
    public void coreHasNoInterfaceCode() {
        noClasses().should().dependOnClassesThat().resideInAnyPackage("javafx..", "java.awt..", "javax.swing..",
                "javax.imageio..").check(CORE);
    }

    @Test
    public void estimatorAndAdviceNeverReadTheSimulator() {
        noClasses().that().resideInAnyPackage("nariz.estimation..", "nariz.diagnosis..").should().dependOnClassesThat()
                .resideInAnyPackage("nariz.sim..", "nariz.exam..").check(CORE);
    }

    /** Circuits and parts are the family's to name; practice engines and their examination are of a family. */
    @Test
    public void nothingOutsideAFamilyNamesItsCircuitsOrParts() {
        noClasses().that().resideOutsideOfPackages("nariz.family..", "nariz.sim..", "nariz.exam..").should()
                .dependOnClassesThat().resideInAnyPackage("nariz.family..").check(CORE);
        noClasses().that().resideInAnyPackage("nariz.estimation..", "nariz.diagnosis..", "nariz.coverage..",
                "nariz.comparison..", "nariz.log..", "nariz.workbook..", "nariz.carburetor..").should()
                .dependOnClassesThat().haveNameMatching("nariz\\.flow\\.(Metered.*|Barrels|IdleNetwork|MainWell|"
                        + "Enrichment|SecondaryOpening|AcceleratorPump|Pump|Opening.*|Booster)").check(CORE);
    }

    /** Language and units belong to whoever shows something: nothing in the core remembers them. */
    @Test
    public void coreRemembersNoLanguageAndNoUnits() {
        assertThat(CORE.stream().flatMap(c -> c.getFields().stream()).filter(f -> f.getModifiers().contains(
                JavaModifier.STATIC) && !f.getModifiers().contains(JavaModifier.FINAL)).map(f -> f.getFullName()))
                .isEmpty();
        noClasses().that().resideOutsideOfPackage("nariz.text..").should().dependOnClassesThat().belongToAnyOf(
                java.util.ResourceBundle.class).check(CORE);
    }

    /** A class of more than 500 lines has more than one job, unless it says why not. */
    @Test
    public void noClassIsLongWithoutAWrittenReason() throws IOException {
        try (Stream<Path> files = Files.walk(Path.of("src/main/java"))) {
            assertThat(files.filter(p -> p.toString().endsWith(".java"))).allSatisfy(p -> {
                List<String> lines = Files.readAllLines(p);
                assertThat(lines.size() <= 500 || lines.stream().anyMatch(l -> l.contains("In one piece because")))
                        .as("%s has %d lines", p, lines.size()).isTrue();
            });
        }
    }

    @Test
    public void everyPackageSaysWhatItIsFor() throws IOException {
        try (Stream<Path> folders = Files.walk(Path.of("src/main/java/nariz"))) {
            assertThat(folders.filter(Files::isDirectory).filter(d -> !d.endsWith("nariz")))
                    .allSatisfy(d -> assertThat(d.resolve("package-info.java")).exists());
        }
    }
}
