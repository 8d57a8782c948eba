package dev.mockbell.desktop;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.belongToAnyOf;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideOutsideOfPackages;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.EvaluationResult;
import dev.mockbell.check.Checker;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Export;
import dev.mockbell.expression.Expressions;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.pattern.XsPattern;
import dev.mockbell.project.LocalProjects;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.project.Secrets;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.validation.BoundaryCases;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlText;
import java.io.FileInputStream;
import java.io.FileOutputStream;
import java.nio.file.Files;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ArchitectureTest {
    private static final JavaClasses DESKTOP = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("dev.mockbell.desktop");

    /** What parses, builds, judges, or reads a disk or a database: seconds of work when the data is large. */
    private static final Class<?>[] COSTLY = {
        Checker.class,
        ContractReader.class,
        Export.class,
        Ledger.class,
        Expressions.class,
        LoadEngine.class,
        BoundaryCases.class,
        MessageValidator.class,
        SampleBuilder.class,
        SampleEnvelope.class,
        Sheet.class,
        XsPattern.class,
        LocalProjects.class,
        ProjectStore.class,
        Secrets.class,
        Xml.class,
        XmlText.class,
        Files.class,
        FileInputStream.class,
        FileOutputStream.class,
    };

    @Test
    void viewsAndPartsShowWhatTheModelsHaveWorkedOut() {
        // a nested type, such as the detail asked of a sample, costs nothing to name: only calls count
        noClasses()
                .that()
                .resideInAnyPackage("dev.mockbell.desktop.view..", "dev.mockbell.desktop.part..")
                .should()
                .accessClassesThat(belongToAnyOf(COSTLY)
                        .and(new com.tngtech.archunit.base.DescribedPredicate<>("not a nested kind") {
                            @Override
                            public boolean test(com.tngtech.archunit.core.domain.JavaClass c) {
                                return !c.isNestedClass();
                            }
                        })
                        .or(resideInAPackage("java.sql.."))
                        .or(resideInAPackage("java.net.http.."))
                        .or(resideInAPackage("javax.xml.parsers..")))
                .check(DESKTOP);
    }

    @Test
    void theRuleSeesWhatComputes() {
        EvaluationResult models = noClasses()
                .that()
                .resideInAPackage("dev.mockbell.desktop.model..")
                .should()
                .accessClassesThat(belongToAnyOf(COSTLY))
                .evaluate(DESKTOP);
        assertThat(models.hasViolation())
                .as("the models do compute, and the rule finds it")
                .isTrue();
    }

    @Test
    void modelsKnowNoViews() {
        noClasses()
                .that()
                .resideInAPackage("dev.mockbell.desktop.model..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("dev.mockbell.desktop.view..", "dev.mockbell.desktop.part..", "javafx.scene..")
                .check(DESKTOP);
    }

    @Test
    void partsKnowNothingOfTheJob() {
        noClasses()
                .that()
                .resideInAPackage("dev.mockbell.desktop.part..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("dev.mockbell.desktop.view..", "dev.mockbell.desktop.model..")
                .check(DESKTOP);
    }

    @ParameterizedTest
    @ValueSource(strings = {"contract", "call", "check", "mock", "traffic", "load"})
    void aStationKnowsNoOtherStationAndNotItsFrame(String station) {
        String views = "dev.mockbell.desktop.view.";
        String own = views + station;
        noClasses()
                .that()
                .resideInAPackage(own)
                .should()
                .dependOnClassesThat(resideInAPackage(views + "*")
                        .and(resideOutsideOfPackages(own, views + "shared", views + "message")))
                .check(DESKTOP);
    }

    @Test
    void whatStationsShareKnowsNoStation() {
        noClasses()
                .that()
                .resideInAnyPackage("dev.mockbell.desktop.view.shared", "dev.mockbell.desktop.view.message")
                .should()
                .dependOnClassesThat(resideInAPackage("dev.mockbell.desktop.view.*")
                        .and(resideOutsideOfPackages(
                                "dev.mockbell.desktop.view.shared", "dev.mockbell.desktop.view.message")))
                .check(DESKTOP);
    }
}
