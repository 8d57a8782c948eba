package dev.mockbell.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** The XDG base directory specification, §3. */
class UserFoldersTest {
    private static final Path HOME = Path.of("/home/ines");

    @Test
    void unsetOrEmptyTheUsualFoldersCount() {
        UserFolders usual = UserFolders.of(Map.of("XDG_STATE_HOME", ""), HOME);
        assertThat(usual.config()).isEqualTo(HOME.resolve(".config/mockbell"));
        assertThat(usual.state()).isEqualTo(HOME.resolve(".local/state/mockbell"));
        assertThat(usual.cache()).isEqualTo(HOME.resolve(".cache/mockbell"));
    }

    @Test
    void whatIsSetCounts() {
        UserFolders set =
                UserFolders.of(Map.of("XDG_CONFIG_HOME", "/c", "XDG_STATE_HOME", "/s", "XDG_CACHE_HOME", "/k"), HOME);
        assertThat(set)
                .isEqualTo(new UserFolders(Path.of("/c/mockbell"), Path.of("/s/mockbell"), Path.of("/k/mockbell")));
    }

    @Test
    void aRelativePathIsToBeIgnoredAndSoIsOneThatIsNone() {
        UserFolders odd = UserFolders.of(Map.of("XDG_CONFIG_HOME", "here", "XDG_CACHE_HOME", "/a\0b"), HOME);
        assertThat(odd.config()).isEqualTo(HOME.resolve(".config/mockbell"));
        assertThat(odd.cache()).isEqualTo(HOME.resolve(".cache/mockbell"));
    }
}
