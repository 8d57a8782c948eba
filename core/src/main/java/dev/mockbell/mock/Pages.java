package dev.mockbell.mock;

import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.Template;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Service;
import dev.mockbell.message.MessageOutline;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The pages of a mock for who comes with a browser: what there is, and one for each operation to try it. They need no scripts. */
final class Pages {
    private final Contract contract;
    private final Map<String, String> paths;
    private final Template index = template("index.html");
    private final Template attempt = template("try.html");
    private final String css = text("page.css");

    /** @param paths where each port is, by its name */
    Pages(Contract contract, Map<String, String> paths) {
        this.contract = contract;
        this.paths = Map.copyOf(paths);
    }

    private static Template template(String name) {
        return Mustache.compiler().emptyStringIsFalse(true).escapeHTML(true).compile(text(name));
    }

    private static String text(String name) {
        try (InputStream in = Pages.class.getResourceAsStream(name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException("the program holds its pages", e);
        }
    }

    /**
     * The page of all operations.
     *
     * @param base the host as the client calls it
     * @param concealed operations that are left out
     */
    String index(String base, Set<String> concealed) {
        List<Map<String, Object>> services = new ArrayList<>();
        boolean any = false;
        for (Service service : contract.services()) {
            List<Map<String, Object>> ports = new ArrayList<>();
            for (Port port : service.ports()) {
                String path = paths.get(port.name());
                if (path == null) {
                    continue;
                }
                List<Map<String, Object>> operations = new ArrayList<>();
                for (Operation operation : port.binding().operations()) {
                    if (operation.callable() && !concealed.contains(operation.key())) {
                        operations.add(Map.of(
                                "name", operation.key(),
                                "link", link(operation.key()),
                                "takes", operation.input().map(this::root).orElse("nothing"),
                                "gives", operation.output().map(this::root).orElse("nothing")));
                    }
                }
                any |= !operations.isEmpty();
                ports.add(Map.of(
                        "name",
                        port.name(),
                        "binding",
                        port.binding().title(),
                        "address",
                        base + path,
                        "path",
                        path,
                        "operations",
                        operations));
            }
            if (!ports.isEmpty()) {
                services.add(Map.of(
                        "name", service.name().getLocalPart(),
                        "documentation", service.documentation(),
                        "ports", ports));
            }
        }
        return index.execute(Map.of("title", contract.title(), "css", css, "empty", !any, "services", services));
    }

    private String root(dev.mockbell.contract.MessageDef message) {
        return MessageOutline.of(contract, message)
                .firstName()
                .map(n -> n.getLocalPart())
                .orElse("nothing");
    }

    static String link(String key) {
        return URLEncoder.encode(key, StandardCharsets.UTF_8);
    }

    /** The page of one operation. */
    String attempt(TryForm form, String address) {
        Map<String, Object> values = new LinkedHashMap<>(form.values());
        values.put("css", css);
        values.put("address", address);
        return attempt.execute(values);
    }
}
