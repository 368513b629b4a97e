import { serialsScanned } from './serialsScanned';

describe('serialsScanned', () => {
  it.each<[string, readonly string[], string[]]>([
    ['a bare serial', ['QH8-04417-77PX'], ['QH8-04417-77PX']],
    ['one that names itself, among others', ['Q8C-TB8', 'S/N: QH8-04417-77PX', '5000C500A1B2C3D4'], ['QH8-04417-77PX']],
    ['fields of one two-dimensional code', ['Model Q8C;SN=QH8-1;2026-01'], ['QH8-1']],
    ['the label of our own, which is an address', ['http://127.0.0.1:4100/drives/QH8%2F1'], ['QH8/1']],
    ['several that do not say what they are: a person chooses', ['Q8C-TB8', 'QH8-1', 'QH8-1'], ['Q8C-TB8', 'QH8-1']],
    ['words alone, and blanks', ['made with care', '  ', 'two words 3'], []],
    ['a broken escape', ['x/drives/%E0%A4'], ['%E0%A4']],
  ])('reads %s', (_what, texts, serials) => {
    expect(serialsScanned(texts)).toEqual(serials);
  });
});
