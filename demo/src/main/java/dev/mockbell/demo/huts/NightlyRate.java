package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import java.math.BigDecimal;
import javax.xml.datatype.XMLGregorianCalendar;

/** What one night costs. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "NightlyRate",
        propOrder = {"night", "amount"})
public final class NightlyRate {
    @XmlSchemaType(name = "date")
    @XmlElement(required = true)
    public XMLGregorianCalendar night;

    @XmlElement(required = true)
    public BigDecimal amount;
}
