package dev.mockbell.access;

import dev.mockbell.security.KeyName;
import dev.mockbell.security.Token;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/** Makes a profile of what the policy of a contract demands, for a person to fill in. */
public final class Demands {
    private static final int LIFE = 300;

    /** By the tags of {@link dev.mockbell.contract.Operation#needs}. */
    private static final Map<String, UnaryOperator<Profile>> MADE = Map.of(
            "UsernameToken", p -> p.with(p.message().with(Token.TEXT)),
            "password digest", p -> p.with(p.message().with(Token.DIGEST)),
            "Timestamp", p -> p.with(p.message().living(LIFE)),
            "signature",
                    p -> p.with(p.message()
                            .with(new Protection.Signature(KeyName.TOKEN, List.of("*")))
                            .facing("", true)),
            "encryption",
                    p -> p.with(p.message()
                            .with(new Protection.Encryption(KeyName.THUMBPRINT, Protection.Encryption.NONE.cipher()))),
            "Basic login", p -> p.with(new Profile.Who(Profile.Way.BASIC, "", "")),
            "Digest login", p -> p.with(new Profile.Who(Profile.Way.WHEN_ASKED, "", "")));

    private Demands() {}

    /** Those of the needs that a profile answers, in their order. */
    public static List<String> known(List<String> needs) {
        return needs.stream().filter(MADE::containsKey).toList();
    }

    /** A profile that does what is needed once names, secrets and certificates are given. */
    public static Profile profile(String name, List<String> needs) {
        Profile made = Profile.named(name);
        for (String need : known(needs)) {
            made = MADE.get(need).apply(made);
        }
        return made;
    }
}
