package dev.mockbell.access;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.security.KeyName;
import dev.mockbell.security.Token;
import java.util.List;
import org.junit.jupiter.api.Test;

class DemandsTest {
    @Test
    void whatAPolicyDemandsIsInTheProfileAndTheRestIsLeftOut() {
        Profile all = Demands.profile(
                "All", List.of("UsernameToken", "password digest", "Timestamp", "signature", "encryption", "TLS"));
        assertThat(all.message().token()).isEqualTo(Token.DIGEST);
        assertThat(all.message().life()).isPositive();
        assertThat(all.message().signature().name()).isEqualTo(KeyName.TOKEN);
        assertThat(all.message().encryption().name()).isNotEqualTo(KeyName.NONE);
        assertThat(all.message().checksAnswers()).isTrue();
        Profile token = Demands.profile("Token", List.of("UsernameToken"));
        assertThat(token.message()).isEqualTo(Protection.NONE.with(Token.TEXT));
        assertThat(Demands.profile("Login", List.of("Digest login")).login().way())
                .isEqualTo(Profile.Way.WHEN_ASKED);
        assertThat(Demands.known(List.of("MTOM", "addressing", "SAML token"))).isEmpty();
    }
}
