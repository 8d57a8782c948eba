package dev.mockbell.schema;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class KeptValuesTest {
    private final KeptValues kept = new KeptValues();
    private final AtomicInteger made = new AtomicInteger();

    private String value(String name, int variant, String given) {
        return kept.value(null, name, variant, () -> {
            made.incrementAndGet();
            return given;
        });
    }

    @Test
    void aValueIsFoundOutOnceForATypeANameAndAVariant() {
        assertThat(value("code", 0, "a")).isEqualTo("a");
        assertThat(value("code", 0, "never made")).isEqualTo("a");
        assertThat(value("code", 1, "b")).isEqualTo("b");
        assertThat(value("name", 0, "c")).isEqualTo("c");
        assertThat(made).hasValue(3);
    }

    @Test
    void aLongOneIsNotKept() {
        String large = "x".repeat(5_000);
        assertThat(value("text", 0, large)).isEqualTo(large);
        assertThat(value("text", 0, large)).isEqualTo(large);
        assertThat(made).hasValue(2);
    }

    @Test
    void aSearchIsTheSameByAllThatItLooksFor() {
        KeptValues.Search one = new KeptValues.Search(List.of("[a-z]"), 1, 2, 4, false);
        KeptValues.Search other = new KeptValues.Search(List.of("[a-z]"), 1, 3, 4, false);
        assertThat(kept.strings(one, () -> List.of("a"))).containsExactly("a");
        assertThat(kept.strings(one, () -> List.of("not asked"))).containsExactly("a");
        assertThat(kept.strings(other, () -> List.of("b"))).containsExactly("b");
    }

    @Test
    void whatIsHandedOutCannotBeChanged() {
        KeptValues.Search search = new KeptValues.Search(List.of("x"), 1, 1, 1, true);
        List<String> found = kept.strings(search, () -> new java.util.ArrayList<>(List.of("x")));
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> found.add("y"))
                .isInstanceOf(UnsupportedOperationException.class);
        assertThat(kept.strings(search, List::of)).containsExactly("x");
    }
}
