package dev.mockbell.demo.fronts;

import com.sun.net.httpserver.Authenticator;
import com.sun.net.httpserver.Headers;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpPrincipal;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Asks for a Digest, by SHA-256 or MD5 (RFC 7616); a count of a nonce is good once. */
final class DigestLogin extends Authenticator {
    private static final Pattern PARAMETER = Pattern.compile("([a-zA-Z]+)=(?:\"([^\"]*)\"|([^,\\s]+))");
    private static final int MOST_NONCES = 1_000;

    private final String realm;
    private final String user;
    private final String password;
    private final SecureRandom random = new SecureRandom();
    private final Map<String, Long> counts = new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Long> eldest) {
            return size() > MOST_NONCES;
        }
    };

    DigestLogin(String realm, String user, String password) {
        this.realm = realm;
        this.user = user;
        this.password = password;
    }

    @Override
    public Result authenticate(HttpExchange exchange) {
        String given = exchange.getRequestHeaders().getFirst("Authorization");
        if (given != null && given.startsWith("Digest ") && isRight(parameters(given), exchange)) {
            return new Success(new HttpPrincipal(user, realm));
        }
        ask(exchange.getResponseHeaders());
        return new Failure(401);
    }

    private void ask(Headers headers) {
        byte[] bytes = new byte[18];
        random.nextBytes(bytes);
        String nonce = HexFormat.of().formatHex(bytes);
        synchronized (counts) {
            counts.put(nonce, 0L);
        }
        for (String algorithm : new String[] {"SHA-256", "MD5"}) {
            headers.add(
                    "WWW-Authenticate",
                    "Digest realm=\"" + realm + "\", qop=\"auth\", algorithm=" + algorithm + ", nonce=\"" + nonce
                            + "\"");
        }
    }

    private static Map<String, String> parameters(String given) {
        Map<String, String> found = new HashMap<>();
        Matcher matcher = PARAMETER.matcher(given);
        while (matcher.find()) {
            found.put(matcher.group(1), matcher.group(2) == null ? matcher.group(3) : matcher.group(2));
        }
        return found;
    }

    private boolean isRight(Map<String, String> p, HttpExchange exchange) {
        String algorithm = p.getOrDefault("algorithm", "MD5");
        String count = p.getOrDefault("nc", "");
        if (!count.matches("[0-9a-f]{8}") || !isNext(p.get("nonce"), Long.parseLong(count, 16))) {
            return false;
        }
        String who = sum(algorithm, user + ":" + realm + ":" + password);
        String what = sum(algorithm, exchange.getRequestMethod() + ":" + p.get("uri"));
        String wanted = sum(
                algorithm,
                who + ":" + p.get("nonce") + ":" + count + ":" + p.get("cnonce") + ":" + p.get("qop") + ":" + what);
        return exchange.getRequestURI().toString().equals(p.get("uri"))
                && user.equals(p.get("username"))
                && wanted.equals(p.get("response"));
    }

    private boolean isNext(String nonce, long count) {
        synchronized (counts) {
            Long last = counts.get(nonce);
            if (last == null || count <= last) {
                return false;
            }
            counts.put(nonce, count);
            return true;
        }
    }

    private static String sum(String algorithm, String text) {
        try {
            return HexFormat.of()
                    .formatHex(MessageDigest.getInstance(algorithm).digest(text.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            return "";
        }
    }
}
