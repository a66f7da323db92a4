package nariz.app;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.testng.annotations.Test;

/** The walls inside the window. */
public class StructureTest {
    private static final JavaClasses APP = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPath(Path.of("target/classes"));

    @Test
    public void packagesFormNoCycle() {
        assertThat(APP.size()).isGreaterThan(50);
        slices().matching("nariz.app.(*)..").should().beFreeOfCycles().check(APP);
    }

    /** The window shows whatever circuits and parts a family has. */
    @Test
    public void noPictureOrPanelNamesAFamily() {
        noClasses().should().dependOnClassesThat().resideInAnyPackage("nariz.family..", "nariz.exam..").check(APP);
    }

    /** What is decided and worked on knows no nodes; tasks know no state. */
    @Test
    public void stateHasNoNodes() {
        noClasses().that().resideInAnyPackage("nariz.app.state..", "nariz.app.task..").should().dependOnClassesThat()
                .resideInAnyPackage("javafx.scene..", "javafx.stage..", "nariz.app.view..", "nariz.app.chart..")
                .check(APP);
        noClasses().that().resideInAPackage("nariz.app.task..").should().dependOnClassesThat()
                .resideInAPackage("nariz.app.state..").check(APP);
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
}
