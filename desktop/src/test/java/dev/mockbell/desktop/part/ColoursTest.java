package dev.mockbell.desktop.part;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Every colour is a token of the stylesheet, in both themes, and stands nowhere else. */
class ColoursTest {
    private static final Path MAIN = Path.of("src", "main");
    private static final Path SHEET = MAIN.resolve("resources/dev/mockbell/desktop/mockbell.css");
    private static final Pattern RULE = Pattern.compile("([^{}]+)\\{([^}]*)}");
    private static final Pattern TOKEN = Pattern.compile("(-mb-[a-z0-9-]+)\\s*:\\s*([^;]+);");
    private static final Pattern COLOUR = Pattern.compile("#[0-9a-fA-F]{3,8}\\b|\\brgba?\\(|\\bhsba?\\(");
    private static final Pattern NAMED = Pattern.compile("Color\\.(web|rgb|color|hsb|gray)\\(|\"#[0-9a-fA-F]{6}");

    /** Bar, rail and tape are dark in both themes, and so what stands on them is the same; what is see-through fits both. */
    private static final List<String> SAME_IN_BOTH =
            List.of("-mb-ink-", "-mb-on-ink", "-mb-tape-", "-mb-veil", "-mb-shadow", "-mb-focus-faint");

    private static Map<String, String> rules() throws IOException {
        String sheet = Files.readString(SHEET).replaceAll("(?s)/\\*.*?\\*/", "");
        Map<String, String> rules = new LinkedHashMap<>();
        Matcher matcher = RULE.matcher(sheet);
        while (matcher.find()) {
            rules.merge(matcher.group(1).strip(), matcher.group(2), String::concat);
        }
        return rules;
    }

    private static Map<String, String> tokens(String selector) throws IOException {
        Map<String, String> found = new LinkedHashMap<>();
        Matcher matcher = TOKEN.matcher(rules().get(selector));
        while (matcher.find()) {
            found.put(matcher.group(1), matcher.group(2).strip());
        }
        return found;
    }

    @Test
    void rulesUseTokensAlone() throws IOException {
        assertThat(rules()).hasSizeGreaterThan(50);
        rules().forEach((selector, body) -> {
            if (!selector.equals(".root") && !selector.equals(".root.dark")) {
                assertThat(COLOUR.matcher(body).find()).as(selector).isFalse();
            }
        });
    }

    @Test
    void everyTokenThatIsUsedIsThereInBothThemes() throws IOException {
        Map<String, String> light = tokens(".root");
        Map<String, String> dark = tokens(".root.dark");
        Set<String> used = new TreeSet<>();
        Matcher matcher = Pattern.compile("-mb-[a-z0-9-]+").matcher(Files.readString(SHEET));
        while (matcher.find()) {
            // those are properties of the drawn parts, which take tokens as their values
            if (!matcher.group().startsWith("-mb-draw-")) {
                used.add(matcher.group());
            }
        }
        assertThat(light.keySet()).containsAll(used);
        assertThat(dark.keySet())
                .as("a colour chosen for a light ground is not taken over into the dark")
                .containsAll(light.entrySet().stream()
                        .filter(t -> COLOUR.matcher(t.getValue()).find())
                        .map(Map.Entry::getKey)
                        .filter(t -> SAME_IN_BOTH.stream().noneMatch(t::startsWith))
                        .toList());
    }

    @Test
    void noColourStandsInTheCode() throws IOException {
        try (Stream<Path> files = Files.walk(MAIN.resolve("java"))) {
            List<Path> sources =
                    files.filter(f -> f.toString().endsWith(".java")).toList();
            assertThat(sources).hasSizeGreaterThan(60);
            for (Path source : sources) {
                assertThat(NAMED.matcher(text(source)).find())
                        .as(source.toString())
                        .isFalse();
            }
        }
    }

    private static String text(Path source) {
        try {
            return Files.readString(source);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
