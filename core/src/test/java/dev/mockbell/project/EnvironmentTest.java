package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;

class EnvironmentTest {
    @Test
    void anEnvironmentKnowsPortsAndWholeContracts() {
        Environment environment =
                new Environment("e", Map.of("stay/One", "http://one", "stay", "http://all"), java.util.List.of());
        assertThat(environment.endpoint("stay", "One")).contains("http://one");
        assertThat(environment.endpoint("stay", "Two")).contains("http://all");
        assertThat(environment.endpoint("other", "One")).isEmpty();
    }
}
