package dev.mockbell.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FileNameTest {
    @ParameterizedTest
    @CsvSource({
        "ReserveBunks, ReserveBunks",
        "Find#2, Find#2",
        "../../../x, %2E.%2F..%2F..%2Fx",
        ".., %2E%2E",
        ".hidden, %2Ehidden",
        "a/b, a%2Fb",
        "50%, 50%25",
        "con, %63on",
        "ends., ends%2E",
        "Hütte, Hütte",
        "'', %"
    })
    void namesBecomeNamesOfFiles(String name, String file) {
        assertThat(FileName.of(name)).isEqualTo(file);
        assertThat(FileName.name(file)).isEqualTo(name);
    }

    @Test
    void anyNameIsOneStepOfAPathAndCanBeReadBack() {
        Random random = new Random(7);
        String letters = "ab./\\:%*?\u0000\n ~é\uD83C\uDFD4|<>\"";
        for (int i = 0; i < 5_000; i++) {
            StringBuilder name = new StringBuilder();
            int length = random.nextInt(12);
            int[] points = letters.codePoints().toArray();
            for (int k = 0; k < length; k++) {
                name.appendCodePoint(points[random.nextInt(points.length)]);
            }
            String file = FileName.of(name.toString());
            assertThat(Path.of("folder").resolve(file).normalize().getNameCount())
                    .as(file)
                    .isEqualTo(2);
            assertThat(FileName.name(file)).isEqualTo(name.toString());
        }
    }

    @Test
    void longNamesAreCutAndStayApart() {
        String one = FileName.of("é".repeat(500) + "1");
        String two = FileName.of("é".repeat(500) + "2");
        assertThat(one).isNotEqualTo(two);
        assertThat(one.getBytes(StandardCharsets.UTF_8).length).isLessThan(200);
    }
}
