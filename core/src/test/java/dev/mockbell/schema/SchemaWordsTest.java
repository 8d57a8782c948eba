package dev.mockbell.schema;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SchemaWordsTest {
    /** What is said of each rule stands, with what makes it be said, in the file of all findings. */
    @Test
    void everyRuleSaidInPlainWordsHasItsTrigger() throws IOException {
        try (InputStream in = SchemaWordsTest.class.getResourceAsStream("/dev/mockbell/contract/findings.txt")) {
            String findings = new String(in.readAllBytes(), StandardCharsets.UTF_8);
            assertThat(SchemaWords.PLAIN.keySet())
                    .filteredOn(rule -> !findings.contains(" " + rule + " at "))
                    .isEmpty();
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "cvc-datatype-valid.1.2.1: 'x' is not a valid value for 'int'.|'x' is not a valid value for 'int'",
                "src-attribute.2: : The property is odd.|The property is odd",
                "UndeclaredEntity: Entity 'e' is not declared.|Entity 'e' is not declared",
                "It cannot: cvc-a.1: 'x' is bad.|It cannot: 'x' is bad",
                "Elements of type 'x': none|Elements of type 'x': none"
            })
    void theLibrarysNamesOfRulesAreNotWords(String given, String said) {
        assertThat(SchemaWords.tidy(given)).isEqualTo(said);
    }

    @Test
    void whatHasNoPlainWordsIsSaidInTheLibrarysInEnglish() {
        String said = new SchemaWords().formatMessage(Locale.FRENCH, "src-import.1.1", new Object[] {"urn:a"});
        assertThat(said)
                .startsWith("The namespace attribute 'urn:a'")
                .doesNotContain("src-import")
                .doesNotEndWith(".");
    }
}
