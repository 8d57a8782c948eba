package dev.mockbell;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class ArchitectureTest {
    /** From the bottom up: a package may use those before it, never those behind it. */
    private static final List<String> ORDER = List.of(
            "problem",
            "choice",
            "guide",
            "task",
            "file",
            "content",
            "xml",
            "inside",
            "redact",
            "pattern",
            "expression",
            "exchange",
            "ledger",
            "schema",
            "profile",
            "contract",
            "soap",
            "message",
            "compare",
            "table",
            "sample",
            "sheet",
            "written",
            "validation",
            "change",
            "completion",
            "wire",
            "listing",
            "security",
            "request",
            "access",
            "check",
            "suite",
            "mock",
            "tap",
            "har",
            "load",
            "project",
            "upkeep",
            "fleet",
            "report",
            "assembly");

    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("dev.mockbell");

    @Test
    void dependenciesGoDownwardsAndNeverBack() {
        for (int i = 0; i < ORDER.size(); i++) {
            String[] above = ORDER.subList(i + 1, ORDER.size()).stream()
                    .map(name -> "dev.mockbell." + name + "..")
                    .toArray(String[]::new);
            if (above.length > 0) {
                noClasses()
                        .that()
                        .resideInAPackage("dev.mockbell." + ORDER.get(i) + "..")
                        .should()
                        .dependOnClassesThat()
                        .resideInAnyPackage(above)
                        .check(CORE);
            }
        }
    }

    @Test
    void everyPackageIsInTheOrder() {
        Set<String> found = new TreeSet<>();
        // a room within a room is where that is
        CORE.forEach(
                c -> found.add(c.getPackageName().replace("dev.mockbell.", "").replaceFirst("\\..*", "")));
        assertThat(found).containsExactlyInAnyOrderElementsOf(ORDER);
    }

    @Test
    void everyPackageSaysWhatItIsFor() {
        for (String name : ORDER) {
            assertThat(CORE.contain("dev.mockbell." + name + ".package-info") || source(name))
                    .as("package-info of " + name)
                    .isTrue();
        }
    }

    private static boolean source(String name) {
        return java.nio.file.Files.exists(
                java.nio.file.Path.of("src", "main", "java", "dev", "mockbell", name, "package-info.java"));
    }

    @Test
    void brokersAreKnownInTheirOwnRoomAlone() {
        noClasses()
                .that()
                .resideInAPackage("dev.mockbell.wire")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("dev.mockbell.wire.jms")
                .check(CORE);
        noClasses()
                .that()
                .resideOutsideOfPackage("dev.mockbell.wire.jms")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("jakarta.jms..", "org.apache.activemq..", "org.apache.qpid..")
                .check(CORE);
    }

    @Test
    void theCoreSeesNoInterface() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("javafx..", "java.awt..", "javax.swing..", "picocli..")
                .check(CORE);
    }

    @Test
    void theCoreNeitherPrintsNorExits() {
        noClasses().should().callMethod(System.class, "exit", int.class).check(CORE);
        noClasses().should().accessField(System.class, "out").check(CORE);
        noClasses().should().accessField(System.class, "err").check(CORE);
    }
}
