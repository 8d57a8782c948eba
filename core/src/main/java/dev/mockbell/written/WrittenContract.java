package dev.mockbell.written;

import java.util.List;
import java.util.Locale;

/**
 * A contract that is written by hand.
 *
 * @param namespace of its messages and its WSDL
 * @param service the name of the service
 * @param address where the service is, or will be
 * @param soap11 whether it speaks SOAP 1.1
 * @param soap12 whether it speaks SOAP 1.2
 */
public record WrittenContract(
        String namespace,
        String service,
        String address,
        boolean soap11,
        boolean soap12,
        List<WrittenOperation> operations) {
    public WrittenContract {
        operations = List.copyOf(operations);
    }

    /** One with no operation yet, for a title such as "Lost and found". */
    public static WrittenContract named(String title) {
        String slug = slug(title);
        return new WrittenContract("urn:" + slug, camel(title), "http://127.0.0.1:8480/" + slug, true, true, List.of());
    }

    private static String slug(String title) {
        String slug =
                title.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
        return slug.isEmpty() ? "contract" : slug;
    }

    private static String camel(String title) {
        StringBuilder out = new StringBuilder();
        for (String word : title.split("[^\\p{L}\\p{N}]+")) {
            if (!word.isEmpty()) {
                out.append(Character.toUpperCase(word.charAt(0))).append(word.substring(1));
            }
        }
        return out.isEmpty() || !Character.isLetter(out.charAt(0)) ? "Service" + out : out.toString();
    }

    public WrittenContract with(List<WrittenOperation> other) {
        return new WrittenContract(namespace, service, address, soap11, soap12, other);
    }

    public WrittenContract withNamespace(String other) {
        return new WrittenContract(other, service, address, soap11, soap12, operations);
    }

    public WrittenContract withService(String other) {
        return new WrittenContract(namespace, other, address, soap11, soap12, operations);
    }

    public WrittenContract withAddress(String other) {
        return new WrittenContract(namespace, service, other, soap11, soap12, operations);
    }

    /** Speaking these versions of SOAP. */
    public WrittenContract speaking(boolean version11, boolean version12) {
        return new WrittenContract(namespace, service, address, version11, version12, operations);
    }
}
