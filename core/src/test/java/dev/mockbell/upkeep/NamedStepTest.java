package dev.mockbell.upkeep;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NamedStepTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            party/guest/name | /h:Root/h:party/h:guest/h:name | /h:Root/h:party/h:guest/h:title
            party/guest/name | //name | //title
            party/guest/name | //guest[2]/name = 'name' | //guest[2]/title = 'name'
            party/guest/name | /Root/hut/name | /Root/hut/name
            party/guest/name | //guest[name = "a/b"]/*:name | //guest[title = "a/b"]/*:title
            party/guest/name | /Root/surname + $name | /Root/surname + $name
            party/guest/name | name() = 'guest' | name() = 'guest'
            party/guest/@name | //guest/@name | //guest/@title
            name | /Root/name | /Root/title
            """)
    void renamesTheStepAndLeavesWhatIsCalledTheSameElsewhere(String path, String xpath, String renamed) {
        assertThat(NamedStep.of(path).renaming("title").apply(xpath)).isEqualTo(renamed);
        assertThat(NamedStep.of(path).isIn(xpath)).isEqualTo(!xpath.equals(renamed));
    }
}
