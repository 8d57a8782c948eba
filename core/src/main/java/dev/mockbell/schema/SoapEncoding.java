package dev.mockbell.schema;

import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import org.apache.xerces.xs.XSAttributeDeclaration;
import org.apache.xerces.xs.XSAttributeGroupDefinition;
import org.apache.xerces.xs.XSAttributeUse;
import org.apache.xerces.xs.XSModel;
import org.apache.xerces.xs.XSObjectList;

/** The namespaces of SOAP's encoding, and the attributes that say how a value is written rather than what it is. */
public final class SoapEncoding {
    /** SOAP 1.1 §5. */
    public static final String V11 = "http://schemas.xmlsoap.org/soap/encoding/";

    /** SOAP 1.2 part 2 §3. */
    public static final String V12 = "http://www.w3.org/2003/05/soap-encoding";

    private static final List<String> GROUPS = List.of("commonAttributes", "arrayAttributes", "arrayMemberAttributes");

    private SoapEncoding() {}

    /** Whether that is the namespace of either version's encoding. */
    public static boolean isNamespace(String namespace) {
        return V11.equals(namespace) || V12.equals(namespace);
    }

    /** Whether an attribute says how its element is encoded, which it may on any (SOAP 1.1 §4.1.1, SOAP 1.2 part 1 §5.1.1). */
    public static boolean isStyle(String namespace, String name) {
        boolean envelope = "http://schemas.xmlsoap.org/soap/envelope/".equals(namespace)
                || "http://www.w3.org/2003/05/soap-envelope".equals(namespace);
        return envelope && "encodingStyle".equals(name);
    }

    /** What the encoding's attribute groups declare, by identity; a type that takes a group in shares its declarations. */
    static Set<XSAttributeDeclaration> attributes(XSModel model) {
        Set<XSAttributeDeclaration> found = Collections.newSetFromMap(new IdentityHashMap<>());
        for (String namespace : List.of(V11, V12)) {
            for (String name : GROUPS) {
                XSAttributeGroupDefinition group = model.getAttributeGroup(name, namespace);
                XSObjectList uses = group == null ? null : group.getAttributeUses();
                for (int i = 0; uses != null && i < uses.getLength(); i++) {
                    found.add(((XSAttributeUse) uses.item(i)).getAttrDeclaration());
                }
            }
        }
        return found;
    }
}
